import type { Sequelize } from 'sequelize'

export interface Migration {
  readonly name: string
  readonly up: (database: Sequelize) => Promise<void>
}
