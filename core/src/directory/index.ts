export { compareDirectory, type KnownPerson } from './compare.ts'
export { type DirectoryEntry, type DirectoryLine, readDirectory } from './read.ts'
export {
  type DirectoryAnswer,
  type DirectoryChoice,
  directoryContracts,
  type DirectoryTaken,
} from './schema.ts'
