/** A handle for the title of a field: small letters, digits and underscores, beginning with a letter; empty where the title has none. */
export const handleFor = (title: string): string =>
  title
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[_0-9]+|_+$/g, '')
    .slice(0, 40)
