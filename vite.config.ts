import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { readdirSync, readFileSync } from 'node:fs';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';
import { aliases } from './vite.aliases.js';

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

/** What files of tests import is read once a worker: none of them changes it, and each has a database of its own. */
const every = { environment: 'node', testTimeout: 60_000, isolate: false };

/** Without the interface's plugins. */
const plain = { resolve: { alias: aliases }, test: every };

const server = {
  ...every,
  globalSetup: ['tests/support/template.ts'],
  hookTimeout: 60_000,
  expect: { poll: { timeout: 15_000 } },
  env: { LOG_LEVEL: 'silent' },
};

export default defineConfig({
  plugins: [tailwindcss(), sveltekit(), pdfData],
  environments: {
    client: {
      build: {
        rolldownOptions: {
          output: {
            // What nearly every view needs is one script: the same bytes, with a third fewer requests.
            codeSplitting: { groups: [{ name: 'everywhere', minShareCount: 25 }] },
          },
        },
      },
    },
  },
  test: {
    pool: 'forks',
    maxWorkers: 2,
    projects: [
      {
        ...plain,
        test: {
          ...every,
          name: 'core',
          include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'standins/**/*.test.ts'],
        },
      },
      { ...plain, test: { ...every, name: 'runner', include: ['tests/runner/*.test.ts'] } },
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
