export {
  NewPerson,
  Password,
  PasswordChange,
  peopleContracts,
  PeopleAnswer,
  PersonAnswer,
  PersonChange,
  Role,
  SessionAnswer,
  SignIn,
} from './schema.ts'
