// What a browser loads before it shows something, in gzipped kilobytes: fails above the budget.
import { readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'

const manifest = JSON.parse(readFileSync('dist/.vite/manifest.json', 'utf8'))
const size = (file) => gzipSync(readFileSync(`dist/${file}`)).length / 1000

/** Every file that some chunks need at once: their own, and what they import. */
function closure(...keys) {
  const files = new Set()
  const seen = new Set()
  const walk = (key) => {
    const chunk = manifest[key]
    if (!chunk || seen.has(key)) return
    seen.add(key)
    files.add(chunk.file)
    chunk.css?.forEach((each) => files.add(each))
    chunk.imports?.forEach(walk)
  }
  keys.forEach(walk)
  return files
}
const total = (files) => [...files].reduce((sum, file) => sum + size(file), 0)

const frame = ['index.html', 'src/frame/AppFrame.vue', 'src/words/en.json']
const BUDGETS = [
  ['entry', 90, ['index.html']],
  ['first list page (shells)', 260, [...frame, 'src/steps/shells/ShellsPage.vue']],
  ['start page, without its chart', 260, [...frame, 'src/steps/today/TodayPage.vue']],
  ['deploy', 380, [...frame, 'src/steps/pair/PairingFrame.vue', 'src/steps/deploy/DeployPage.vue']],
  ['reconcile', 350, [...frame, 'src/steps/reconcile/ReconcilePage.vue']],
]
let over = false
for (const [name, budget, keys] of BUDGETS) {
  const missing = keys.filter((key) => !manifest[key])
  if (missing.length) throw new Error(`budget: no chunk ${missing.join(', ')}`)
  const files = closure(...keys)
  const now = total(files)
  const charts = [...files].some((file) => /ChartFigure|echarts/.test(file))
  console.log(
    `budget: ${name}: ${now.toFixed(0)} of ${budget} kB${charts ? ', with the charts!' : ''}`,
  )
  over ||= now > budget || charts
}
if (over) process.exit(1)
