export { NewTeam, TeamChange } from './schema.ts'
