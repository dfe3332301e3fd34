import { expect, test, visit } from './demo.ts'

/** What the Desk needs of scripts when nothing is there yet, as they come over the line. */
const mostBytes = 200_000

test('the first page fetches its files once, compressed, and keeps them for a year', async ({ page }) => {
  const fetched: Promise<number>[] = []
  page.on('requestfinished', (request) => {
    if (!request.url().endsWith('.js')) return
    fetched.push(
      (async () => {
        const response = await request.response()
        const headers = (await response?.allHeaders()) ?? {}
        expect(headers['cache-control']).toBe('public, max-age=31536000, immutable')
        const { responseBodySize } = await request.sizes()
        if (responseBodySize > 2000) expect(headers['content-encoding']).toMatch(/^(gzip|br)$/)
        return responseBodySize
      })(),
    )
  })
  await visit(page, '/desk')
  await expect(page.getByRole('region', { name: 'Desk' })).toBeVisible()
  const sizes = await Promise.all(fetched)
  expect(sizes.length).toBeGreaterThan(3)
  expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(mostBytes)
  const gone = await page.request.get(new URL('/assets/no-such-file.js', page.url()).toString())
  expect(gone.status()).toBe(404)
})

test('a section that cannot be fetched says so, others go on, and loading anew brings it', async ({
  page,
}) => {
  await page.route('**/assets/Letters-*.js', (route) => route.abort())
  await page.getByRole('link', { name: 'Letters' }).click()
  const alert = page.getByRole('alert')
  await expect(alert).toContainText('This part of the page is not there')
  await page.getByRole('link', { name: 'Bookings' }).click()
  await expect(page.getByRole('heading', { name: 'Bookings', level: 1 })).toBeVisible()
  await page.getByRole('link', { name: 'Letters' }).click()
  await page.unroute('**/assets/Letters-*.js')
  await alert.getByRole('button', { name: 'Load the page anew' }).click()
  await expect(page.getByRole('heading', { name: 'Letters', level: 1 })).toBeVisible()
})
