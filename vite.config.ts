import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { readdirSync, readFileSync } from 'node:fs';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

/** What the reader of PDF documents asks for beside its script: fonts, tables of characters, a decoder. See `$ui/pdf`. */
const pdfData: Plugin = {
  name: 'pdf-data',
  applyToEnvironment: ({ name }) => name === 'client',
  generateBundle() {
    for (const folder of ['cmaps', 'iccs', 'standard_fonts', 'wasm'])
      for (const file of readdirSync(`node_modules/pdfjs-dist/${folder}`))
        this.emitFile({
          type: 'asset',
          fileName: `_app/pdf-data/${folder}/${file}`,
          source: readFileSync(`node_modules/pdfjs-dist/${folder}/${file}`),
        });
  },
};

const server = {
  environment: 'node',
  globalSetup: ['tests/support/template.ts'],
  testTimeout: 180_000,
  hookTimeout: 180_000,
  // On a machine that stands still at times, news may take long to come.
  expect: { poll: { timeout: 60_000 } },
  env: { LOG_LEVEL: 'silent' },
};

export default defineConfig({
  plugins: [tailwindcss(), sveltekit(), pdfData],
  // Fonts are files of their own, however small: none is allowed to come from within a style.
  build: { assetsInlineLimit: (path) => (/\.woff2?$/.test(path) ? false : undefined) },
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
          // A road through many views, on a machine that is four times slower than ours, and stands still at times.
          testTimeout: 480_000,
          expect: { poll: { timeout: Number(process.env.PATIENCE ?? 100_000) } },
        },
      },
    ],
  },
});
