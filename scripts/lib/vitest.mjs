import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { run, tool } from './project.mjs'

/** The tests of a report of Vitest, each with its file, its name and how long it took in ms. */
const testsOf = (report) =>
  report.testResults.flatMap(({ name, assertionResults }) =>
    assertionResults.map(({ fullName, duration }) => ({ file: name, name: fullName, ms: duration ?? 0 })),
  )

/**
 * A run of Vitest, counted test by test. A run that could not start, or found no test, has failed.
 *
 * @param folder Where its report goes.
 */
export async function runVitest(name, folder, args, env) {
  const file = join(folder, `${name}.json`)
  const { code, output } = await run(
    tool('vitest'),
    ['run', ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`],
    { quiet: true, env },
  )
  let report
  try {
    report = JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return { passed: 0, failed: 1, tests: [], output: `No report was written.\n${output}` }
  }
  const { numPassedTests: passed, numFailedTests: failed } = report
  const isSilentFailure = failed === 0 && (code !== 0 || passed === 0)
  return { passed, failed: failed + (isSilentFailure ? 1 : 0), tests: testsOf(report), output }
}
