import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import { Problem } from '@/api/problem'
import { i18n, speakFirst } from '@/words'
import App from './App.vue'
import { router } from './router'
import './styles.css'

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // What was refused is refused again; only a broken connection is worth another try.
      retry: (count, error) => !(error instanceof Problem) && count < 2,
    },
  },
})

await speakFirst()
createApp(App).use(i18n).use(router).use(VueQueryPlugin, { queryClient: client }).mount('#app')
