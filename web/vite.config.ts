import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import babel from '@rolldown/plugin-babel';
import react, { reactCompilerPreset } from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

const text = (name: string) => readFileSync(new URL(name, import.meta.url), 'utf8');

/** Writes the page's service worker with the list of the files that it keeps, and a name that changes with them. */
function shell(): Plugin {
  return {
    name: 'ebbrin-shell',
    apply: 'build',
    generateBundle(_, bundle) {
      const assets = Object.keys(bundle).filter((name) => name.startsWith('assets/'));
      const files = ['/', '/icon.svg', ...assets.sort().map((name) => `/${name}`)];
      const source = text('./shell.js');
      const made = createHash('sha256').update(files.join() + source + text('./index.html'));
      this.emitFile({
        type: 'asset',
        fileName: 'shell.js',
        source: source
          .replace('__NAME__', made.digest('hex').slice(0, 12))
          .replace("['__FILES__']", JSON.stringify(files)),
      });
    },
  };
}

export default defineConfig({
  plugins: [react(), babel({ presets: [reactCompilerPreset()] }), shell()],
  build: { manifest: 'manifest.json', assetsDir: 'assets', assetsInlineLimit: 0, target: 'es2022' },
  server: { proxy: { '/api': 'http://127.0.0.1:8600' } },
});
