import { defineConfig } from 'vitest/config';

const shared = {
  testTimeout: 60_000,
  environment: 'jsdom',
  unstubGlobals: true,
  restoreMocks: true,
} as const;

// A page made for each file takes a minute in all. Only files that replace a module need one of their own.
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
        },
      },
      { test: { ...shared, name: 'alone', include: ['src/**/*.alone.test.{ts,tsx}'] } },
    ],
  },
});
