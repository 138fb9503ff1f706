import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react()],
  // A room's styles stay with the room, whichever other rooms were fetched before; the name a style was given stays readable.
  css: { modules: { generateScopedName: '[local]_[hash:base64:5]' } },
  // Fonts and pictures stay files: the content security policy takes no data: fonts.
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    // The server writes the public pages, and finds their script and styles in the manifest.
    manifest: true,
    rolldownOptions: { input: { app: 'index.html', public: 'src/public/public.ts' } },
  },
  // ./dev says where the server is.
  server: {
    proxy: Object.fromEntries(
      ['/api', '/emergency', '/list', '/verify', '/near-miss', '/offline.json'].map((path) => [
        path,
        process.env.VELVETGATE_API ?? 'http://127.0.0.1:5080',
      ]),
    ),
  },
  test: { environment: 'jsdom', setupFiles: ['tests/setup.ts'], include: ['tests/**/*.test.{ts,tsx}'] },
})
