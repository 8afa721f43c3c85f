import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { assetsDir: 'assets', assetsInlineLimit: 0, target: 'es2022' },
  server: { proxy: { '/api': 'http://127.0.0.1:8600' } },
});
