import { readdirSync, readFileSync } from 'node:fs'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

/** The licences of the type families go where their files go. */
const licences: Plugin = {
  name: 'licences',
  generateBundle() {
    const fonts = new URL('node_modules/@fontsource-variable/', import.meta.url)
    for (const family of readdirSync(fonts))
      this.emitFile({
        type: 'asset',
        fileName: `licence-${family}.txt`,
        source: readFileSync(new URL(`${family}/LICENSE`, fonts)),
      })
  },
}

export default defineConfig({
  base: '/assets/',
  plugins: [react(), tailwindcss(), licences],
  build: {
    outDir: '../src/Jovitar.Server/wwwroot/assets',
    emptyOutDir: true,
    manifest: true,
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
    assetsDir: '',
    rolldownOptions: { input: ['src/workroom/main.tsx', 'src/site/main.ts', 'src/site/shop.ts', 'src/site/embedding.ts'] },
  },
})
