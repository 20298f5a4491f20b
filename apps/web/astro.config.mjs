import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  integrations: [react()],
  security: { checkOrigin: true, allowedDomains: [{ hostname: '127.0.0.1' }, { hostname: 'localhost' }] },
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    worker: { format: 'es' },
    ssr: {
      external: ['pg', 'pg-boss', 'exceljs', 'pino', 'better-auth', 'puppeteer-core'],
      noExternal: [
        /^react-aria/,
        /^@react-aria\//,
        /^react-stately/,
        /^@react-stately\//,
        /^@internationalized\//,
        'lucide-react',
        /^@kindred-baton\//,
      ],
    },
  },
});
