/** Types, lint with the layer rule, formatting, unused code, circles of imports. */
import { installPackages, run } from './lib/project.mjs';
import { say } from './lib/say.mjs';

await installPackages();
await run('npx', ['svelte-kit', 'sync']);
const checks = [
  ['svelte-check', '--fail-on-warnings', '--output', 'human'],
  ['eslint', '.', '--max-warnings', '0'],
  ['prettier', '--check', '--log-level', 'warn', '.'],
  ['knip', '--no-progress'],
  ['depcruise', '--config', '.dependency-cruiser.mjs', 'src/lib'],
];
const failed = [];
for (const check of checks) if ((await run('npx', check)) !== 0) failed.push(check);
for (const check of failed) say(`failed: ${check[0]}`);
process.exit(failed.length ? 1 : 0);
