import { statSync } from 'node:fs'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** Journeys take longest, and a longer file takes longer: so that at the end no worker waits for another. */
const first = ['e2e', 'server', 'scripts']

const rank = ({ project }: TestSpecification): number => {
  const place = first.indexOf(project.name)
  return place < 0 ? first.length : place
}

const size = ({ moduleId }: TestSpecification): number => statSync(moduleId).size

/** Sorts test files by project, and within each the longest first. */
export class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    return await Promise.resolve([...files].sort((a, b) => rank(a) - rank(b) || size(b) - size(a)))
  }
}
