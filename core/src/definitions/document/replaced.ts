/** What is kept with one identity in the place of another: in a list that comes to name it twice, it is named once. */
export function replacedIn(content: unknown, from: string, into: string): unknown {
  if (content === from) return into
  if (Array.isArray(content)) {
    const replaced = content.map((entry: unknown) => replacedIn(entry, from, into))
    return content.includes(from)
      ? replaced.filter((entry, index) => entry !== into || replaced.indexOf(into) === index)
      : replaced
  }
  if (content !== null && typeof content === 'object')
    return Object.fromEntries(
      Object.entries(content).map(([key, value]) => [key, replacedIn(value, from, into)]),
    )
  return content
}
