import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import { Problem } from '@/api/client'
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

createApp(App).use(router).use(VueQueryPlugin, { queryClient: client }).mount('#app')
