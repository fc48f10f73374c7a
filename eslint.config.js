import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** Files of a layer may not import these. `core` computes, `server` keeps, `ui` draws, `routes` join them. */
const layer = (files, forbidden) => ({
  files,
  ignores: ['**/*.test.ts'],
  rules: { 'no-restricted-imports': ['error', { patterns: forbidden }] },
});

const outward = [
  { group: ['$server/*', '**/server/*'], message: 'This layer does not import the server.' },
  { group: ['$ui/*', '**/ui/*'], message: 'This layer does not import the interface.' },
  { group: ['**/routes/*', '$app/*', '$env/*'], message: 'This layer does not import routes.' },
];
const [noServer, noUi, noRoutes] = outward;

/** Names that a route or a component takes from its wrapper. */
const wrapped = ['enhance', 'invalidate', 'invalidateAll'].map((name) => ({
  selector: `ImportDeclaration[source.value=/^\\$app/] ImportSpecifier[imported.name="${name}"]`,
  message: 'Take it from $ui/refresh: there it does not stop a view that is on its way.',
}));

/** A route hands the grant on; the service does the rest with it. */
const grantsOnly = [
  {
    selector:
      ':matches(MemberExpression[property.name=/^(selectFrom|insertInto|updateTable|deleteFrom)$/], TaggedTemplateExpression[tag.name="sql"])',
    message: 'Queries stand in services, which take a grant.',
  },
  {
    selector: 'MemberExpression[object.name="app"][property.name=/^(pages|memory|findPage)$/]',
    message: 'Pages are opened by services, which take a grant.',
  },
  {
    selector: 'CallExpression > MemberExpression[object.property.name="thing"][property.name="id"]',
    message: 'Hand on the grant, not the id of its thing.',
  },
];

/** An object is written as one: spreading a literal into it only joins lines. */
const plainObjects = [
  {
    selector: 'ObjectExpression > SpreadElement > ObjectExpression',
    message: 'Write the properties into the object itself.',
  },
];

/** How a form is answered is said once. */
const oneFormAnswer = [
  {
    selector: 'ImportSpecifier[imported.name="fail"]',
    message: 'Throw a Refusal inside formAction, which answers the form.',
  },
];

export default ts.config(
  { ignores: ['build/', '.svelte-kit/', '.uncia/', 'node_modules/'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...svelte.configs.recommended,
  {
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      'svelte/no-navigation-without-resolve': 'off',
      'no-restricted-syntax': ['error', ...plainObjects],
    },
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } },
  },
  layer(
    ['src/lib/core/**'],
    [
      ...outward,
      {
        group: ['node:*', 'pg', 'kysely', 'svelte', 'svelte/*', 'pino', 'prosemirror-view'],
        message: 'The core is pure: no I/O, no interface, no clock.',
      },
    ],
  ),
  {
    files: ['src/lib/core/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'fetch', 'localStorage', 'process'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Time comes in as an argument.' },
        { object: 'Math', property: 'random', message: 'Chance comes in as an argument.' },
      ],
    },
  },
  layer(['src/lib/server/**'], [noUi, noRoutes]),
  layer(['src/lib/ui/**'], [noServer]),
  {
    files: ['src/**', 'demo/**'],
    ignores: ['src/lib/core/**', 'src/lib/server/db/transaction.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        {
          property: 'transaction',
          message: 'Begin it with inTransaction, which knows what is in it.',
        },
      ],
    },
  },
  {
    files: ['src/routes/**', 'src/lib/ui/**'],
    ignores: ['src/lib/ui/refresh.ts', '**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', ...plainObjects, ...wrapped] },
  },
  {
    files: ['src/routes/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...plainObjects,
        ...wrapped,
        ...grantsOnly,
        ...oneFormAnswer,
      ],
    },
  },
);
