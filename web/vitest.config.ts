import { defineConfig } from 'vitest/config';

const shared = {
  testTimeout: 240_000,
  unstubGlobals: true,
  restoreMocks: true,
} as const;

// A document made for each file takes a minute in all, and modules read for each another. Files share both, which
// testing/document.ts sees to; only those that replace a module need their own.
export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: {
          ...shared,
          name: 'together',
          include: ['src/**/*.test.{ts,tsx}'],
          exclude: ['src/**/*.alone.test.{ts,tsx}'],
          pool: 'threads',
          isolate: false,
          environment: 'node',
          setupFiles: ['src/testing/document.ts'],
        },
      },
      {
        test: {
          ...shared,
          name: 'alone',
          environment: 'jsdom',
          include: ['src/**/*.alone.test.{ts,tsx}'],
        },
      },
    ],
  },
});
