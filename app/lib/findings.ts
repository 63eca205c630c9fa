import type { Finding, Severity } from '#core/conflicts'
import type { Id, Rig } from '#core/rig'

/** How the findings stand in their list. */
export type Grouping = 'weight' | 'kind' | 'controller'

/** A line of the list: a heading with how many follow, or a finding. */
export type FindingRow =
  | { type: 'heading'; id: string; text: string; count: number }
  | { type: 'finding'; id: string; finding: Finding }

export const SEVERITY_HEADING: Readonly<Record<Severity, string>> = {
  error: 'Will misbehave',
  warning: 'May misbehave',
  advice: 'Worth knowing',
}

/** Findings with headings between, in the order in which groups first come; by weight there are none. */
export function findingRows(
  findings: readonly Finding[],
  by: Grouping,
  names: { rule: (id: string) => string; controller: (id: Id) => string },
): FindingRow[] {
  const row = (finding: Finding): FindingRow => ({ type: 'finding', id: finding.id, finding })
  if (by === 'weight') return findings.map(row)
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
    ...group.map(row),
  ])
}

/** The name of a controller by its id. */
export const controllerNames =
  (rig: Rig | null) =>
  (id: Id): string =>
    rig?.controllers.find((controller) => controller.id === id)?.name ?? ''
