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

const shared = {
  testEnvironment: 'node',
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
      testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/{property,reference,words}/**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'component',
      testEnvironment: 'jsdom',
      setupFiles: ['<rootDir>/tests/support/component-setup.ts'],
      testMatch: ['<rootDir>/src/**/*.test.tsx'],
    },
    {
      ...shared,
      displayName: 'integration',
      setupFiles: ['<rootDir>/tests/support/integration-setup.ts'],
      setupFilesAfterEnv: ['<rootDir>/tests/support/integration-time.ts'],
      testMatch: ['<rootDir>/tests/integration/**/*.test.ts'],
    },
  ],
};
