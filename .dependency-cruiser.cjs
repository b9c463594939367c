/** The layers of the project, as rules. ARCHITECTURE.md says why; this file is what the tests check. */

/** Which other core modules each core module may use; a module that is missing here may not exist. */
const CORE = {
  kit: [],
  units: ['kit'],
  formula: ['kit', 'units'],
  network: ['kit', 'units', 'formula'],
  numeric: ['kit'],
  geometry: ['kit', 'numeric'],
  sketch: ['kit', 'numeric', 'geometry'],
  'kernel-port': ['kit', 'geometry'],
  tolerance: [],
  document: ['kit', 'units', 'formula', 'network', 'tolerance'],
  instances: ['kit', 'units', 'formula', 'network', 'geometry', 'document'],
  assembly: ['kit', 'units', 'numeric', 'geometry', 'kernel-port', 'document', 'instances'],
  links: ['kit', 'network', 'document', 'instances'],
  studies: ['kit', 'units', 'tolerance', 'document', 'instances'],
  'loose-ends': ['document', 'instances'],
  'value-table': ['document', 'formula', 'units', 'tolerance'],
  interchange: ['kit', 'geometry'],
  drawing: ['kit', 'formula', 'document', 'geometry', 'sketch'],
  steps: ['kit', 'units', 'document', 'geometry', 'sketch', 'kernel-port'],
};

/** What each top folder may import from src/, besides itself. */
const LAYERS = {
  core: [],
  contract: ['core'],
  kernel: ['core'],
  formats: ['core'],
  workers: ['core', 'kernel', 'formats'],
  outside: ['core', 'formats'],
  server: ['core', 'contract', 'workers', 'outside'],
  cli: ['core', 'formats', 'workers', 'outside'],
  ui: ['core', 'contract', 'formats', 'workers'],
  app: ['core', 'contract', 'server', 'ui'],
};

/**
 * The floors of ui, from below: what all pages are made of, parts, workspaces, pages. A folder may use those above it in this list that are named, and so none
 * that use it; one that is missing here may not exist.
 */
const UI = {
  // What everything is made of.
  design: [],
  state: ['design'],
  // Parts.
  'formula-box': ['design', 'state'],
  'formula-reference': ['design', 'state'],
  canvas3d: ['design', 'state'],
  help: ['design', 'state'],
  shelf: ['design', 'state'],
  links: ['design', 'state'],
  ledger: ['design', 'state', 'formula-box', 'links'],
  // Workspaces: a task, or a kind of document.
  bodies: ['design', 'state', 'formula-box'],
  'value-table': ['design', 'state'],
  'loose-ends': ['design', 'state', 'ledger'],
  'catch-up': ['design', 'state', 'canvas3d'],
  history: ['design', 'state', 'catch-up'],
  steps: ['design', 'state', 'formula-box', 'canvas3d', 'ledger', 'bodies'],
  'sketch-canvas': ['design', 'state', 'formula-box', 'steps'],
  outside: ['design', 'state', 'formula-box', 'ledger'],
  sizes: ['design', 'state', 'catch-up'],
  studies: ['design', 'state', 'ledger', 'sizes'],
  'what-ifs': ['design', 'state', 'studies', 'sizes', 'catch-up'],
  calc: ['design', 'state', 'ledger'],
  assembly: ['design', 'state', 'formula-box', 'canvas3d', 'ledger', 'shelf', 'studies'],
  // Pages.
  projects: ['design', 'state', 'help', 'shelf', 'links', 'catch-up'],
  report: ['design', 'state', 'canvas3d', 'outside', 'calc'],
  shell: null,
};
const floors = Object.keys(UI);
for (const [at, [folder, uses]] of Object.entries(UI).entries())
  for (const used of uses ?? []) if (floors.indexOf(used) >= at) throw new Error(`ui/${folder} stands below ui/${used} and may not use it.`);

/** Packages with one home: everything else goes through that folder. */
const HOMES = {
  'sequelize|mariadb|umzug': '^src/server/',
  'react|react-dom': '^src/(ui|app)/',
  next: '^src/(app|ui|proxy)',
  three: '^src/ui/canvas3d/',
  'replicad-opencascadejs': '^src/kernel/',
  'dxf|@gltf-transform|papaparse|read-excel-file|write-excel-file|@e965/xlsx': '^src/formats/',
  '@ironcalc': '^src/outside/',
  '@codemirror': '^src/ui/formula-box/',
  '@tanstack/react-query': '^src/ui/state/',
};

/** The packages that core may use: small, pure, and better than what we would write. */
const CORE_PACKAGES = 'node_modules/(zod|fflate|@noble/hashes|@stdlib/)';

const TEST = '\\.test\\.tsx?$|^tests/|^bench/';
const src = (paths) => paths.map((path) => `src/${path}(/|\\.ts$)`).join('|');

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
    { name: 'product-code-uses-no-tests', severity: 'error', from: { path: '^src/', pathNot: TEST }, to: { path: TEST } },
    {
      name: 'product-code-uses-no-dev-package',
      severity: 'error',
      from: { path: '^src/', pathNot: TEST },
      to: { dependencyTypes: ['npm-dev'], dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'core-uses-few-packages',
      severity: 'error',
      from: { path: '^src/core/', pathNot: TEST },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'], pathNot: CORE_PACKAGES },
    },
    {
      name: 'one-entry-per-core-module',
      severity: 'error',
      comment: 'Outside its folder, a core module is imported through its index.ts only.',
      from: { path: '^src/(?:core/([^/]+)/|(?!core/))', pathNot: TEST },
      to: { path: '^src/core/[^/]+/(?!index\\.ts$)', pathNot: '^src/core/$1/' },
    },
    { name: 'workers-are-started-not-imported', severity: 'error', from: { path: '^src/', pathNot: `${TEST}|thread-entry` }, to: { path: '\\.worker\\.ts$' } },
    ...Object.entries(CORE).map(([module, uses]) => ({
      name: `core-${module}-uses-only-its-lower-modules`,
      severity: 'error',
      from: { path: `^src/core/${module}/`, pathNot: TEST },
      to: { path: '^src/core/', pathNot: `^src/core/(${[module, ...uses].join('|')})/` },
    })),
    { name: 'core-modules-are-listed', severity: 'error', from: {}, to: { path: '^src/core/', pathNot: `^src/core/(${Object.keys(CORE).join('|')})/` } },
    ...Object.entries(LAYERS).map(([layer, uses]) => ({
      name: `${layer}-uses-only-${uses.join('-and-') || 'itself'}`,
      severity: 'error',
      from: { path: `^src/${layer}/`, pathNot: TEST },
      to: { path: '^src/', pathNot: `^(${src([layer, ...uses])})` },
    })),
    ...Object.entries(UI).map(([folder, uses]) => ({
      name: `ui-${folder}-uses-only-lower-floors`,
      severity: 'error',
      from: { path: `^src/ui/${folder}/`, pathNot: TEST },
      to: { path: '^src/ui/', pathNot: `^src/ui/(${[folder, ...(uses ?? floors.filter((other) => UI[other] !== null))].join('|')})/` },
    })),
    { name: 'ui-floors-are-listed', severity: 'error', from: {}, to: { path: '^src/ui/', pathNot: `^src/ui/(${floors.join('|')})/` } },
    ...Object.entries(HOMES).map(([packages, home]) => ({
      name: `${packages.split('|')[0]}-only-in-its-home`,
      severity: 'error',
      from: { path: '^src/', pathNot: `${home}|${TEST}` },
      to: { path: `node_modules/(${packages})/` },
    })),
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'node', 'default'], extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
