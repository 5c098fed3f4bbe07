export { ComponentMerge, NewComponent, ComponentChange } from './schema.ts'
