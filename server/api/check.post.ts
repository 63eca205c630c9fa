import { check } from '#core/conflicts'
import { defineApi, readRigBody } from '../lib/api'

export default defineApi(async (event) => {
  const { findings, fixesOf } = check(await readRigBody(event))
  return { findings: findings.map((finding) => ({ ...finding, fixes: fixesOf(finding.id) })) }
})
