const transform = {
  '\\.[cm]?[jt]sx?$': [
    '@swc/jest',
    {
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', tsx: true },
        transform: { react: { runtime: 'automatic' } },
      },
      module: { type: 'commonjs' },
    },
  ],
};

/** Where files stand that each run many others (scripts/group-tests.mjs), when `npm test` runs everything. */
const groups = process.env.TEST_GROUPS;
const filesOf = (project, patterns) => (groups === undefined ? patterns : [`<rootDir>/${groups}/${project}-*.test.js`]);

/** Globals are looked up slowly in a test: these are handed to each module, as fast as its own. */
const HANDED = ['Array', 'JSON', 'Math', 'Number', 'Object', 'Set'];
const HANDED_WITHOUT_BROWSER = [
  ...HANDED,
  ...['ArrayBuffer', 'BigInt', 'Boolean', 'DataView', 'Date', 'Error', 'Float32Array', 'Float64Array', 'Infinity', 'Int32Array', 'Map', 'Promise'],
  ...['RangeError', 'RegExp', 'Symbol', 'TypeError', 'Uint16Array', 'Uint32Array', 'Uint8Array', 'WeakMap', 'parseFloat', 'parseInt'],
];

const shared = {
  testEnvironment: 'node',
  sandboxInjectedGlobals: HANDED_WITHOUT_BROWSER,
  transform,
  // ESM-only packages have to be compiled to CommonJS for Jest.
  transformIgnorePatterns: [
    '/node_modules/(?!(p-queue|p-timeout|eventemitter3|replicad-opencascadejs|@ironcalc|@noble|nanoid|idb|three|@gltf-transform|property-graph|linkedom|css-select|css-what|domhandler|domutils|dom-serializer|domelementtype|entities|boolbase|nth-check|htmlparser2|cssom|cssomnom|uhyphen)/)',
  ],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next/'],
};

/** @type {import('jest').Config} */
module.exports = {
  projects: [
    {
      ...shared,
      displayName: 'unit',
      testMatch: filesOf('unit', ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/{property,reference,words}/**/*.test.ts']),
    },
    {
      ...shared,
      displayName: 'component',
      testEnvironment: 'jsdom',
      // Icons are called `Map` and `Infinity`.
      sandboxInjectedGlobals: HANDED,
      setupFiles: ['<rootDir>/tests/support/component-setup.ts'],
      setupFilesAfterEnv: ['<rootDir>/tests/support/component-cleanup.ts'],
      testMatch: filesOf('component', ['<rootDir>/src/**/*.test.tsx']),
    },
    {
      ...shared,
      displayName: 'integration',
      setupFiles: ['<rootDir>/tests/support/integration-setup.ts'],
      setupFilesAfterEnv: ['<rootDir>/tests/support/integration-time.ts'],
      testMatch: filesOf('integration', ['<rootDir>/tests/integration/**/*.test.ts']),
    },
  ],
};
