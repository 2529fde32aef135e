import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      // A new embedded database takes seconds, and everything far longer on a busy machine.
      {
        test: {
          name: 'unit',
          include: ['src/**/*.test.ts'],
          environment: 'node',
          testTimeout: 30_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'engine',
          include: ['tests/{engine,reference}/**/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
          hookTimeout: 120_000,
          // Small encodes hardly use more than one core each.
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
      {
        test: {
          name: 'api',
          include: ['tests/{store,api}/**/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
          hookTimeout: 120_000,
          // A whole server waits for its children about as long as it works.
          maxWorkers: 2,
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
