/** Chunks whose modules are compiled early do what they did. */
import vm from 'node:vm';
import { compileModulesEarly } from '../../scripts/eager-modules.mjs';

/** As the bundler writes them: whose script it is, then the names of modules, each with its function or that of the names before it. */
const CHUNK = `(globalThis.TURBOPACK||(globalThis.TURBOPACK=[])).push(["object"==typeof document?document.currentScript:void 0,12,e=>{"use strict";e.push("),34,e=>{ ü")},34,(e,t,n)=>{n.exports=[e=>e,function(){return this}].length},56,78,async e=>{e.push(\`\${(()=>"(")()}\`)}]);`;

type Pushed = readonly [readonly (number | ((...given: object[]) => void) | undefined)[]];

function run(text: string): unknown[] {
  const [entries] = vm.runInNewContext(`${text};TURBOPACK`, { TURBOPACK: undefined }) as Pushed;
  return entries.map((entry) => {
    if (typeof entry !== 'function') return entry;
    const [said, module] = [[] as string[], { exports: 0 }];
    entry(said, {}, module);
    return [...said, module.exports];
  });
}

test('modules stand in parentheses, under their names, and do what they did', () => {
  const early = compileModulesEarly(CHUNK);
  expect(early.match(/,\((?:async )?(?:e|\(e,t,n\))=>/g)).toHaveLength(3);
  expect(early).toHaveLength(CHUNK.length + 6);
  expect(run(early)).toEqual(run(CHUNK));
  expect(run(CHUNK)).toEqual([undefined, 12, ['),34,e=>{ ü', 0], 34, [2], 56, 78, ['(', 0]]);
});

test('what is no chunk, or has no modules, stays as it is', () => {
  for (const text of ['self.x=1;', '(globalThis.TURBOPACK||(globalThis.TURBOPACK=[])).push([void 0,12,"text"]);']) expect(compileModulesEarly(text)).toBe(text);
});
