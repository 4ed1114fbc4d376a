import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    reporters: ['default'],
    projects: [
      {
        test: {
          name: 'core',
          root: './core',
          include: ['src/**/*.test.ts', 'cli/**/*.test.ts', 'testing/**/*.test.ts'],
          setupFiles: ['./testing/seed.ts'],
          testTimeout: 120_000
        }
      },
      './app/vitest.config.ts'
    ]
  }
});
