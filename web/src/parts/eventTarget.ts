/** What is written in the field that an event comes from. */
export const written = ({ target }: Event): string =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement ? target.value : ''

/** The element at or around what an event comes from that is like this. */
export const around = <T extends HTMLElement = HTMLElement>(
  { target }: Event,
  like: string,
): T | null => (target instanceof Element ? target.closest<T>(like) : null)
