/** What is done once to the code of pages, when it was built: its modules are compiled early, and it is compressed: public/chunks/NAME.js.br for each. */
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { brotliCompressSync, constants } from 'node:zlib';
import { compileModulesEarly } from './eager-modules.mjs';

const [from, to] = ['.next/static/chunks', 'public/chunks'];
/** The most (11) takes more than twice the time, for a fiftieth less. */
const QUALITY = 10;

rmSync(to, { recursive: true, force: true });
mkdirSync(to, { recursive: true });
let early = 0;
for (const name of readdirSync(from)) {
  if (!name.endsWith('.js')) continue;
  const file = path.join(from, name);
  const read = readFileSync(file, 'utf8');
  const text = Buffer.from(compileModulesEarly(read));
  if (text.length > Buffer.byteLength(read)) early++;
  writeFileSync(file, text);
  const params = { [constants.BROTLI_PARAM_QUALITY]: QUALITY, [constants.BROTLI_PARAM_SIZE_HINT]: text.length };
  writeFileSync(path.join(to, `${name}.br`), brotliCompressSync(text, { params }));
}
if (early === 0) throw new Error('Bug: no chunk has modules. The bundler writes them otherwise now.');
