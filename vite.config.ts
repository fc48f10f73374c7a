import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

const server = {
  environment: 'node',
  globalSetup: ['tests/support/template.ts'],
  testTimeout: 60_000,
  hookTimeout: 60_000,
  env: { LOG_LEVEL: 'silent' },
};

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  test: {
    pool: 'forks',
    maxWorkers: 2,
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'standins/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
        },
      },
      { extends: true, test: { ...server, name: 'server', include: ['tests/server/*.test.ts'] } },
      {
        extends: true,
        test: {
          ...server,
          name: 'interface',
          include: ['tests/interface/*.test.ts'],
          // A road through many views, on a machine that is four times slower than ours.
          testTimeout: 240_000,
          expect: { poll: { timeout: Number(process.env.PATIENCE ?? 45_000) } },
        },
      },
    ],
  },
});
