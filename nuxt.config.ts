import { cpSync } from 'node:fs'
import { join, resolve } from 'node:path'
import tailwindcss from '@tailwindcss/vite'
import { build } from 'esbuild'
import { JOBS } from './server/threads/files'

export default defineNuxtConfig({
  compatibilityDate: '2026-01-15',
  telemetry: false,
  sourcemap: false,
  devtools: { enabled: false },
  // Everything stands behind a sign-in and changes under the reader's hands; nothing is worth rendering twice.
  // (Said as a rule of routes: with `ssr: false` this version's development server does not start.)
  routeRules: {
    '/**': { ssr: false },
  },
  modules: ['@pinia/nuxt', '@nuxt/eslint', 'nuxt-security'],
  css: ['~/assets/main.css'],
  // Pages are a few kilobytes from this machine: none is fetched before somebody goes there.
  experimental: { defaults: { nuxtLink: { prefetch: false } } },
  components: [{ path: '~/components', pathPrefix: false }],
  app: {
    head: {
      htmlAttrs: { lang: 'en' },
      title: 'Russet Lantern',
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1' },
        { name: 'robots', content: 'noindex' },
      ],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/lantern.svg' }],
    },
  },
  vite: { plugins: [tailwindcss()], build: { reportCompressedSize: false } },
  typescript: { strict: true },
  eslint: { config: { stylistic: false } },
  hooks: {
    // The built server opens its own doors; while developing, the platform's are used.
    'nitro:config': (config) => {
      if (!config.dev) config.entry = resolve('server/http/listen.ts')
    },
    // The built server brings its tables up to date by itself, so the migrations lie beside it.
    'nitro:init': (nitro) => {
      nitro.hooks.hook('compiled', () => {
        const beside = (name: string) => join(nitro.options.output.serverDir, name)
        cpSync('server/db/migrations', beside('migrations'), { recursive: true })
        cpSync('core/ranking/worked', beside('worked'), { recursive: true, filter: (path) => !/\.ts$/.test(path) })
        cpSync('node_modules/pdfmake/fonts/Roboto', beside('fonts'), { recursive: true })
        cpSync('stand-ins/content/clips', beside('clips'), { recursive: true })
        cpSync('stand-ins/media/images', beside('media'), {
          recursive: true,
          filter: (path) => !path.endsWith('.json'),
        })
      })
      // What runs beside the server's thread is programs of their own.
      nitro.hooks.hook('compiled', () =>
        build({
          entryPoints: Object.entries(JOBS).map(([name, room]) => `server/${room}/${name}.ts`),
          entryNames: '[name]',
          outdir: join(nitro.options.output.serverDir, 'jobs'),
          outExtension: { '.js': '.mjs' },
          bundle: true,
          platform: 'node',
          format: 'esm',
          target: 'node20',
          external: ['better-sqlite3', 'sharp'],
          // Some packages still ask for parts of the platform in the older way.
          banner: {
            js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url), __dirname = import.meta.dirname",
          },
          logLevel: 'warning',
        }).then(() => undefined),
      )
    },
  },
  nitro: {
    errorHandler: resolve('server/http/error-shape.ts'),
    compressPublicAssets: { gzip: true, brotli: true },
    esbuild: { options: { target: 'node20' } },
    typescript: { strict: true },
  },
  security: {
    rateLimiter: false,
    corsHandler: false,
    xssValidator: false,
    // The front door and the routes count what comes, also where no length is said.
    requestSizeLimiter: false,
    headers: {
      contentSecurityPolicy: {
        'default-src': ["'self'"],
        'script-src': ["'self'", "'nonce-{{nonce}}'"],
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'media-src': ["'self'", 'blob:'],
        'font-src': ["'self'"],
        'connect-src': ["'self'"],
        'worker-src': ["'self'"],
        'frame-ancestors': ["'none'"],
        'base-uri': ["'none'"],
        'form-action': ["'self'"],
        'object-src': ["'none'"],
        'upgrade-insecure-requests': false,
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    },
  },
})
