export { JobAnswer, JobsAnswer, JobState } from './schema.ts'
