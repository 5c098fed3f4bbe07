import '@fontsource-variable/source-sans-3/wght.css'
import '@fontsource-variable/newsreader/wght.css'
import '@fontsource-variable/source-code-pro/wght.css'
import './theme/tokens.css'
import './theme/base.css'
import './theme/marks.css'
import './theme/controls.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './app/App.vue'
import { controls } from './app/controls.ts'
import { router } from './app/router.ts'
import { applyTheme } from './theme/theme.ts'

applyTheme()
createApp(App).use(createPinia()).use(router).use(controls).mount('#app')
