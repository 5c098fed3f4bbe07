export {
  NewPerson,
  Password,
  PasswordChange,
  PeopleAnswer,
  PersonAnswer,
  PersonChange,
  Role,
} from './schema.ts'
