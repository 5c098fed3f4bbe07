export { cellOf, guardCell, joinNames, splitNames, unguardCell } from './cell.ts'
export { exchangeContracts, Export } from './schema.ts'
