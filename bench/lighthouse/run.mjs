// Measures the page that is open in a browser by Lighthouse's phone profile: node run.mjs HOST:PORT RUNS prints a line of JSON for each run.

import lighthouse from 'lighthouse'
import puppeteer from 'puppeteer-core'

const [, , address, runs] = process.argv
const browser = await puppeteer.connect({ browserURL: `http://${address}`, defaultViewport: null })
const [first] = await browser.pages()
for (let run = 0; run < Number(runs); run++) {
  // A tab of its own: what a run leaves in the one that it measured in is not what the page costs.
  const page = await browser.newPage()
  await page.goto(first.url())
  await page.locator('[data-act=same]').click()
  await page.waitForSelector('#work[data-ready]')
  const { lhr } = await lighthouse(
    page.url(),
    {
      port: Number(address.split(':')[1]),
      output: 'json',
      logLevel: 'error',
      onlyCategories: ['performance', 'accessibility', 'best-practices'],
      // The student stays in: what the device keeps is what lets it show the work.
      disableStorageReset: true,
    },
    undefined,
    page,
  )
  await page.close()
  const failed = Object.values(lhr.audits).filter(audit => audit.score !== null && audit.score < 1 && audit.scoreDisplayMode !== 'informative')
  console.log(
    JSON.stringify({
      ...Object.fromEntries(Object.entries(lhr.categories).map(([name, { score }]) => [name, Math.round(100 * score)])),
      failed: failed.map(audit => audit.id),
    }),
  )
}
await browser.disconnect()
