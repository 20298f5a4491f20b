import { defineConfig } from 'vite';

/** The code of the threads that read files (src/server/reading): one file beside the server’s own. */
export default defineConfig({
  logLevel: 'warn',
  publicDir: false,
  build: {
    ssr: 'src/server/reading/reader.worker.ts',
    outDir: 'dist/reader',
    target: 'node20',
    rollupOptions: { output: { entryFileNames: '[name].mjs', inlineDynamicImports: true } },
  },
  ssr: { noExternal: [/^@kindred-baton\//], external: ['exceljs'] },
});
