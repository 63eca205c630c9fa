import type { Finding, Severity } from '#core/conflicts'
import type { Cause } from '#core/conflicts/causes'
import type { Id, Rig } from '#core/rig'

/** How the findings stand in their list. */
export type Grouping = 'cause' | 'weight' | 'kind' | 'controller'

/** A line of the list: a cause that opens, a heading with how many follow, or a finding. */
export type FindingRow =
  | { type: 'cause'; id: string; cause: Cause; isOpen: boolean }
  | { type: 'heading'; id: string; text: string; count: number }
  | { type: 'finding'; id: string; finding: Finding }

export const SEVERITY_HEADING: Readonly<Record<Severity, string>> = {
  error: 'Will misbehave',
  warning: 'May misbehave',
  advice: 'Worth knowing',
}

const findingRow = (finding: Finding): FindingRow => ({ type: 'finding', id: finding.id, finding })

/** Causes with the findings of those that are open; a finding that is alone stands for itself. */
export const causeRows = (causes: readonly Cause[], isOpen: (id: string) => boolean): FindingRow[] =>
  causes.flatMap((cause): FindingRow[] => {
    const rows = cause.findings.map(findingRow)
    if (rows.length === 1) return rows
    const open = isOpen(cause.id)
    return [{ type: 'cause', id: cause.id, cause, isOpen: open }, ...(open ? rows : [])]
  })

/** Findings with headings between, in the order in which groups first come; by weight there are none. */
export function findingRows(
  findings: readonly Finding[],
  by: Exclude<Grouping, 'cause'>,
  names: { rule: (id: string) => string; controller: (id: Id) => string },
): FindingRow[] {
  if (by === 'weight') return findings.map(findingRow)
  const groups = new Map<string, Finding[]>()
  for (const finding of findings) {
    const text =
      by === 'kind'
        ? names.rule(finding.rule)
        : finding.at[0]
          ? names.controller(finding.at[0].controller)
          : 'Cables and ports'
    const group = groups.get(text)
    if (group) group.push(finding)
    else groups.set(text, [finding])
  }
  return [...groups].flatMap(([text, group]): FindingRow[] => [
    { type: 'heading', id: `heading ${text}`, text, count: group.length },
    ...group.map(findingRow),
  ])
}

/** The name of a controller by its id. */
export const controllerNames =
  (rig: Rig | null) =>
  (id: Id): string =>
    rig?.controllers.find((controller) => controller.id === id)?.name ?? ''
