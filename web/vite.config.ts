import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { AntDesignVueResolver } from 'unplugin-vue-components/resolvers'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [
    vue(),
    Components({ dts: 'src/components.d.ts', dirs: [], resolvers: [AntDesignVueResolver({ importStyle: false, resolveIcons: true })] }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { manifest: true, target: 'es2022', chunkSizeWarningLimit: 900, reportCompressedSize: false },
  server: { proxy: { '/api': 'http://127.0.0.1:7380' } },
  test: { environment: 'happy-dom', setupFiles: ['src/test-setup.ts'] },
})
