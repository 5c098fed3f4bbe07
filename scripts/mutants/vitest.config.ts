import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: { include: ['core/src/**/*.test.ts'], environment: 'node', isolate: false },
})
