export { type Starter, starters } from './starter.ts'
export { takeOver } from './takeOver.ts'
