import { writeFileSync } from 'node:fs'
import { beforeEach, onTestFailed } from 'vitest'
import { shown } from './journey.ts'

/** Where BLUESTEM_PICTURES names a folder, a failed step leaves a picture of what it saw. */
beforeEach(({ task }) => {
  const folder = process.env['BLUESTEM_PICTURES']
  if (!folder) return
  onTestFailed(async () => {
    const picture = await shown?.driver.takeScreenshot()
    if (!picture) return
    const file = `${folder}/${task.name.replace(/\W+/g, '-')}.png`
    writeFileSync(file, Buffer.from(picture, 'base64'))
  })
})
