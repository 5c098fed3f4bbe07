import { dialog, type Page } from './page.ts'

/** Defines a measure over the answers of a shared query, and puts its figure on a new dashboard. */
export async function putOnDashboard(
  page: Page,
  { measure, query, dashboard }: Readonly<Record<'measure' | 'query' | 'dashboard', string>>,
): Promise<void> {
  await page.open('/dashboards/measures')
  await page.press('New measure')
  await page.write('Title', measure)
  await page.choose('Over the answers of', query)
  await page.press('Keep')
  await page.reads(measure)
  await page.open('/dashboards')
  await page.press('New dashboard')
  await page.write('Title', dashboard)
  await page.press('Keep', dialog)
  await page.reads('Here figures, bars, courses and lists would stand')
  await page.press('Add widget')
  await page.choose('Measure', measure)
  await page.press('Add it')
  await page.press('Keep')
  await page.reads('Kept.')
}
