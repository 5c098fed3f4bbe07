import type { Order } from '../queries/schema.ts'

/** An order as the API takes it: `-changed,ref`. */
export const sortText = (order: Readonly<Order>): string =>
  order.map(({ by, direction }) => `${direction === 'down' ? '-' : ''}${by}`).join(',')
