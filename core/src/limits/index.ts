export {
  allowanceOf,
  clockOf,
  hoursLeft,
  type Allowed,
  type Clock,
  type ClockState,
  type LimitedProjects,
} from './clock.ts'
export { allowanceWords, workingTimeWords } from './words.ts'
