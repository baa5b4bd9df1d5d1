import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true })],
  build: { outDir: 'dist', chunkSizeWarningLimit: 400 },
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.JANDREL_PORT ?? 8740}` } },
  test: {
    environment: 'happy-dom',
    setupFiles: ['src/setup.ts'],
    server: { deps: { inline: ['vuetify'] } },
    // most of the time goes into making the same surroundings anew; files that replace whole modules need theirs
    projects: [
      {
        extends: true,
        test: {
          name: 'together',
          isolate: false,
          include: ['src/**/*.spec.ts'],
          exclude: ['src/**/*.alone.spec.ts'],
        },
      },
      { extends: true, test: { name: 'alone', include: ['src/**/*.alone.spec.ts'] } },
    ],
  },
})
