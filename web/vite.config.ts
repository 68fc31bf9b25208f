import vue from '@vitejs/plugin-vue';
import { defaultClientConditions, defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';

const server = process.env.NIGHT_BELL_ADDRESS ?? 'http://127.0.0.1:4380';

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true })],
  resolve: { conditions: ['source', ...defaultClientConditions] },
  build: { target: 'es2022', cssCodeSplit: true, reportCompressedSize: true },
  server: { host: '127.0.0.1', proxy: { '/api': { target: server, ws: true } } },
});
