declare module '@fontsource-variable/*'
declare module '*.css'
declare module '*.vue' {
  import type { DefineComponent } from 'vue'
  const component: DefineComponent
  export default component
}

declare module 'primevue/toasteventbus' {
  const bus: { emit(event: 'add' | 'remove', message: object): void }
  export default bus
}
