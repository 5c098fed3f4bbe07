/**
 * The address of the cluster of this worker of the test runner.
 *
 * @throws where the tests were not started by the test command, which makes the clusters
 */
export function clusterUrl() {
  const urls = process.env['BLUESTEM_TEST_URLS']?.split(' ') ?? []
  const url = urls[Number(process.env['VITEST_POOL_ID'] ?? 1) - 1] ?? urls[0]
  if (!url)
    throw new Error(
      'These tests need databases of their own: run them by npm run test:server or npm run test:browser.',
    )
  return url
}

/** The addresses of the clusters of all workers. */
export const clusterUrls = () => process.env['BLUESTEM_TEST_URLS']?.split(' ') ?? [clusterUrl()]

/** The address of a database of a cluster. @param {string} name @param {string} [url] the cluster's; that of this worker where none is named */
export const databaseUrl = (name, url = clusterUrl()) => url.replace(/\/[^/]+$/, `/${name}`)
