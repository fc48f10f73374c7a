import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
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
  testTimeout: 60_000,
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
        // Nothing of the interface's: it is tested in seconds.
        resolve: {
          alias: {
            $core: resolve('src/lib/core'),
            $server: resolve('src/lib/server'),
            $ui: resolve('src/lib/ui'),
          },
        },
        test: {
          name: 'core',
          include: [
            'src/**/*.test.ts',
            'demo/**/*.test.ts',
            'standins/**/*.test.ts',
            'tests/runner/*.test.ts',
          ],
          environment: 'node',
          testTimeout: 60_000,
        },
      },
      {
        extends: true,
        test: {
          ...server,
          name: 'server',
          include: ['tests/server/*.test.ts'],
          // Each has a database of its own; what they import is read once a worker.
          isolate: false,
        },
      },
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
