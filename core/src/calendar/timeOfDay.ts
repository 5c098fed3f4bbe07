/** The minutes of a time of day such as `08:30` since its midnight; `24:00` is the next. */
export const minutesOf = (time: string): number => {
  const [hours = 0, minutes = 0] = time.split(':').map(Number)
  return hours * 60 + minutes
}
