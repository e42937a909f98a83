import './nonce'
import '@fontsource-variable/source-serif-4/index.css'
import '@fontsource-variable/inter/index.css'
import '@fontsource/ibm-plex-mono/400.css'
import '@fontsource/ibm-plex-mono/600.css'
import './theme/tokens.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import App from './App.vue'
import { ProblemError } from './api/client'
import { renewWhenReplaced } from './frame/renew'
import { router } from './router'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      refetchOnWindowFocus: false,
      // what the server refuses stays refused; what did not arrive is asked for again
      retry: (failures, error) => failures < 2 && (!(error instanceof ProblemError) || error.status === 0 || error.status >= 502),
    },
  },
})

renewWhenReplaced(router)
createApp(App).use(router).use(VueQueryPlugin, { queryClient: queries }).mount('#app')
