import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import './style.css'
import { useWorkspace } from './use/workspace'

const app = createApp(App).use(createPinia()).use(router)
// What fails while a page is drawn leaves it half drawn: never without a word.
app.config.errorHandler = e => {
  console.error(e)
  useWorkspace().say(`This page failed and may not show what stands: ${e}. Load it again.`)
}
app.mount('#app')
