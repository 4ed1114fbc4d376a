import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    reporters: ['default'],
    // both cores of a small machine: left to itself, the runner keeps one of two free
    maxWorkers: '100%',
    projects: [
      {
        test: {
          name: 'core',
          root: './core',
          include: ['src/**/*.test.ts', 'cli/**/*.test.ts', 'testing/**/*.test.ts'],
          setupFiles: ['./testing/seed.ts'],
          testTimeout: 120_000,
          // the core keeps no state between calls: files share what is loaded and compiled, and take half the time
          isolate: false
        }
      },
      './app/vitest.config.ts'
    ]
  }
});
