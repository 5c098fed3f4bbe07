import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils'
import { afterEach, beforeEach, vi } from 'vitest'
import { furnish, SilentStream } from './page.ts'

// Every test begins on an empty page and leaves nothing behind, for all of them share one window.
beforeEach(() => {
  furnish()
  vi.stubGlobal('EventSource', SilentStream)
})
afterEach(() => {
  document.body.innerHTML = ''
  localStorage.clear()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
// What is enabled last runs first: what is on the page goes before the page does. It may be enabled only once.
disableAutoUnmount()
enableAutoUnmount(afterEach)
