import type { ItemAnswer, Property } from '@bluestem/core/queries'

/** The value of a property as an item travels with it. */
export const valueOf = (item: ItemAnswer, { handle, builtIn }: Property): unknown =>
  builtIn ? item[handle] : item.fields?.[handle]
