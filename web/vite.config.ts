import vue from '@vitejs/plugin-vue';
import { defaultClientConditions, defineConfig, type HtmlTagDescriptor, type Plugin } from 'vite';
import vuetify from 'vite-plugin-vuetify';

const server = process.env.NIGHT_BELL_ADDRESS ?? 'http://127.0.0.1:4380';

/**
 * What everybody who is signed in needs, the frame, and what all pages but the trail are built from are named in the page,
 * so that they are fetched while the start is read. The server leaves out what a visitor has no need of (data-for).
 */
const ahead: Plugin = {
  name: 'ahead',
  apply: 'build',
  transformIndexHtml: {
    order: 'post',
    handler(_html, { bundle = {} }) {
      const pieces = Object.values(bundle).filter((piece) => piece.type === 'chunk');
      const read = (name: string) => {
        const piece = pieces.find((each) => each.name === name);
        if (piece === undefined) throw new Error(`There is no piece called ${name} to fetch ahead.`);
        return { rel: 'modulepreload', crossorigin: true, href: `/${piece.fileName}` };
      };
      const lines = [
        { 'data-for': 'frame', rel: 'preload', as: 'fetch', crossorigin: true, href: '/api/session' },
        { 'data-for': 'frame', ...read('frame') },
        { 'data-for': 'page', ...read('kit') },
        { 'data-for': 'page', ...read('parts') },
      ];
      return lines.map((attrs): HtmlTagDescriptor => ({ tag: 'link', attrs, injectTo: 'head' }));
    },
  },
};

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), ahead],
  resolve: { conditions: ['source', ...defaultClientConditions] },
  build: {
    target: 'es2022',
    // Small pieces by the hundred cost a request each: what pages share comes in a few.
    cssCodeSplit: false,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'start', tags: ['$initial'], priority: 3 },
            // In one piece: parts of it that call each other while they load may not come in two.
            { name: 'parts', test: /node_modules[\\/]vuetify/, priority: 2 },
            // The page one lands on comes with the frame, and with nothing that only other pages need.
            {
              name: 'frame',
              test: /web[\\/]src[\\/](shell[\\/]Frame|areas[\\/]home[\\/]HomePage)/,
              priority: 3,
            },
            // What lists and sheets are built from, in one request.
            {
              name: 'kit',
              test: /web[\\/]src[\\/]kit[\\/](?!FigureChart|rope|SoundPlayer|SipLadder|table-file)/,
              priority: 2,
            },
            // How areas call their things, for pages that name those of others.
            { name: 'words', test: /web[\\/]src[\\/]areas[\\/][^\\/]+[\\/]words\.ts$/, priority: 2 },
            {
              name: 'shared',
              minShareCount: 3,
              entriesAware: true,
              entriesAwareMergeThreshold: 24_000,
              priority: 1,
            },
          ],
        },
      },
    },
  },
  server: { host: '127.0.0.1', proxy: { '/api': { target: server, ws: true } } },
});
