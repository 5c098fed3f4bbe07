export { jobContracts, JobAnswer, JobsAnswer, JobState } from './schema.ts'
