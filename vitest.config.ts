import path from 'node:path';
import { defineConfig } from 'vitest/config';

const alias = { '@': path.resolve(import.meta.dirname, 'src') };

export default defineConfig({
  test: {
    // By itself it leaves one core idle, which of two is half.
    maxWorkers: '100%',
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          include: ['src/**/*.test.ts', 'src/**/*.test.tsx', 'tests/golden/**/*.test.ts', 'tests/corpus/**/*.test.ts'],
          // On a machine that others keep busy five seconds are little.
          testTimeout: 20_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'world',
          include: ['tests/world/**/*.test.ts'],
          globalSetup: ['tests/support/database.setup.ts'],
          // One database server and one set of processes serve all of these: files run one after the other.
          fileParallelism: false,
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'e2e',
          include: ['tests/e2e/**/*.test.ts'],
          globalSetup: ['tests/e2e/support/stack.setup.ts'],
          fileParallelism: false,
          testTimeout: 180_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
