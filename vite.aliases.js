import { resolve } from 'node:path';
import svelteConfig from './svelte.config.js';

/** Short names of folders of the source, for what is built or tested without SvelteKit. */
export const aliases = Object.fromEntries(
  Object.entries(svelteConfig.kit?.alias ?? {}).map(([name, path]) => [name, resolve(path)]),
);
