/**
 * The headless command: evaluates and regenerates an open project file. No database, no browser.
 *
 *     warpbeam evaluate   FILE [--set "DOC.name=formula"]... [--what-if NAME] [--at upper|middle|lower] [--as-saved] [--services] [--json]
 *     warpbeam regenerate FILE [the same] [--step DIR] [--stl DIR] [--3mf DIR] [--glb DIR]
 *     warpbeam sizes      FILE DOCUMENT [the same]                  every size of a document: values, mass, what fails
 *     warpbeam stack      FILE --of "DOC.value" [--least AMOUNT] [--most AMOUNT]     how far a value may be off by tolerances
 *     warpbeam run        FILE --range "DOC.value=200 mm..600 mm/21" [--range ...] [--of NAME]... [--csv]   what others come to over one range or two
 *     warpbeam solve      FILE --goal "DOC.mass=2 kg" --by "DOC.value=10 mm..30 mm"           the value at which another is reached
 *     warpbeam schema                                             prints the JSON Schema of project files
 *
 * Exit status: 0 without errors in the model, 1 with some, 2 when the command could not be carried out.
 */
import { runCommand } from './run-command';

const writer = (stream: NodeJS.WriteStream) => (text: string) => {
  stream.write(`${text}\n`);
};

void runCommand(process.argv.slice(2), {
  print: writer(process.stdout),
  complain: writer(process.stderr),
  // Loaded when needed: most commands build no geometry.
  openClient: async () => (await import('../workers/start-thread')).clientFromSource(),
}).then((status) => {
  process.exitCode = status;
});
