import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react()],
  // Fonts and pictures stay files: the content security policy takes no data: fonts.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  // ./dev says where the server is.
  server: { proxy: { '/api': process.env.VELVETGATE_API ?? 'http://127.0.0.1:5080' } },
  test: { environment: 'jsdom', setupFiles: ['tests/setup.ts'], include: ['tests/**/*.test.{ts,tsx}'] },
})
