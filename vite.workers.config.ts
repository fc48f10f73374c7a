import { resolve } from 'node:path';
import { defineConfig } from 'vite';

/** What runs in threads of its own, beside the built application. */
export default defineConfig({
  resolve: { alias: { $core: resolve('src/lib/core') } },
  build: {
    ssr: 'src/lib/server/threads/thread.worker.ts',
    outDir: 'build/workers',
    target: 'node20',
  },
});
