/** No file imports one that imports it, not even for its types. */
export default {
  forbidden: [{ name: 'no-circle', severity: 'error', from: {}, to: { circular: true } }],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
