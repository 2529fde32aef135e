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
          include: ['tests/{engine,reference,store,api}/**/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
          hookTimeout: 120_000,
          // Encoders use every core, so files run one after another: two at a time took as long, and starved each other.
          fileParallelism: false,
        },
      },
    ],
  },
});
