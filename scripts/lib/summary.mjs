import { existsSync, readFileSync } from 'node:fs'
import { relative } from 'node:path'
import { ROOT } from './project.mjs'

const SLOWEST = 10
const seconds = (ms) => `${(ms / 1000).toFixed(1).padStart(7)} s`

/** The slowest tests of a run, and the files that take most. */
function slowestOf(title, tests) {
  const byFile = new Map()
  for (const { file, ms } of tests) byFile.set(file, (byFile.get(file) ?? 0) + ms)
  const files = [...byFile].map(([file, ms]) => ({ ms, text: relative(ROOT, file) }))
  const single = tests.map(({ file, name, ms }) => ({ ms, text: `${relative(ROOT, file)}: ${name}` }))
  const lines = (list) =>
    list
      .toSorted((a, b) => b.ms - a.ms)
      .slice(0, SLOWEST)
      .map(({ ms, text }) => `${seconds(ms)}  ${text.slice(0, 140)}`)
  return [
    `The slowest files of the ${title}:`,
    ...lines(files),
    `The slowest of the ${title}:`,
    ...lines(single),
  ]
}

/** What the browser tests spent on opening pages and on waiting, from the lines that each file has left. */
function spentIn(file) {
  if (!existsSync(file)) return []
  const all = readFileSync(file, 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line))
  const sum = (what) => all.reduce((total, each) => total + each[what], 0)
  return [
    `Browser tests spent ${seconds(sum('opening'))} on opening pages and ${seconds(sum('waiting'))} on waiting.`,
  ]
}

/** Where the time of a run went, in lines: each stage, and the slowest tests of each kind. */
export function summaryOf(stages, spentFile) {
  return [
    'Where the time went (stages run side by side):',
    ...stages.map(
      ({ name, from, ms }) => `${seconds(ms)}  ${name}, begun after ${(from / 1000).toFixed(0)} s`,
    ),
    ...stages.filter(({ tests }) => tests?.length > 0).flatMap(({ name, tests }) => slowestOf(name, tests)),
    ...spentIn(spentFile),
  ]
}
