import { defineConfig } from 'vite';

/** The code of the threads that do heavy work (src/server/aside): one file beside the server’s own. */
export default defineConfig({
  logLevel: 'warn',
  publicDir: false,
  build: {
    ssr: 'src/server/aside/aside.worker.ts',
    outDir: 'dist/aside',
    target: 'node20',
    rollupOptions: { output: { entryFileNames: '[name].mjs', inlineDynamicImports: true } },
  },
  ssr: { noExternal: [/^@kindred-baton\//], external: ['exceljs'] },
});
