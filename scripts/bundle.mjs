/** TypeScript entries as one JavaScript file each, made anew when a source is newer: what is started often starts in a fraction of the time. */
import { existsSync, readdirSync, renameSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const folder = path.join(root, 'node_modules/.cache/warpbeam');

function newest(place) {
  const stats = statSync(place);
  if (!stats.isDirectory()) return stats.mtimeMs;
  return readdirSync(place).reduce((latest, name) => Math.max(latest, newest(path.join(place, name))), stats.mtimeMs);
}

/**
 * The address of the bundle of `entry`. `sources` are the folders that it is made of, `options` go to esbuild; places are those from the
 * project's folder.
 */
export async function bundleOf(name, entry, sources, options = {}) {
  const bundle = path.join(folder, `${name}.mjs`);
  const places = [...sources, 'scripts/bundle.mjs', 'package-lock.json'].map((place) => path.join(root, place));
  if (!existsSync(bundle) || statSync(bundle).mtimeMs <= Math.max(...places.map(newest))) {
    const { build } = await import('esbuild');
    // Put in place whole: others may read it at the same time.
    const made = path.join(folder, `${name}.${process.pid}.${Math.random().toString(36).slice(2)}.mjs`);
    await build({
      entryPoints: [path.join(root, entry)],
      outfile: made,
      bundle: true,
      platform: 'node',
      format: 'esm',
      logLevel: 'error',
      tsconfig: path.join(root, 'tsconfig.json'),
      ...options,
    });
    renameSync(made, bundle);
  }
  return pathToFileURL(bundle).href;
}
