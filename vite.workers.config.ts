import { defineConfig } from 'vite';
import { aliases } from './vite.aliases.js';

/** What runs in threads of its own, beside the built application. */
export default defineConfig({
  resolve: { alias: aliases },
  build: {
    ssr: 'src/lib/server/threads/thread.worker.ts',
    outDir: 'build/workers',
    target: 'node20',
  },
});
