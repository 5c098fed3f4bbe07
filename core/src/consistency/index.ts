export { nearGroups, nearness, type Nearness } from './near.ts'
