import '@fontsource-variable/source-sans-3/wght.css'
import '@fontsource-variable/newsreader/wght.css'
import '@fontsource-variable/source-code-pro/wght.css'
import './app/theme/tokens.css'
import './app/theme/base.css'
import './app/theme/marks.css'
import './app/theme/controls.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './app/App.vue'
import { controls } from './app/controls.ts'
import { router } from './app/router.ts'
import { applyTheme } from './app/theme/theme.ts'

applyTheme()
createApp(App).use(createPinia()).use(router).use(controls).mount('#app')
