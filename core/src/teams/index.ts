export { NewTeam, TeamAnswer, TeamChange, teamContracts } from './schema.ts'
