export const phases = ['idle', 'active', 'done', 'dropped'] as const

export type Phase = (typeof phases)[number]
