/**
 * Go to the finding after, or before, the last one visited: of those that an open list of findings shows,
 * which stays open, else of all, cause after cause.
 */
export async function walkFindings(by: 1 | -1): Promise<void> {
  const desk = useDeskStore()
  const analysis = useAnalysisStore()
  const showThing = useShowThing()
  const busOf = (id: string): string | null =>
    analysis.buses.find(({ destination }) => destination === id)?.id ?? null
  const view = useFindingsViewStore()
  await view.settled()
  const { panel } = desk
  const list = panel === 'findings' ? view.shown : view.all.flatMap(({ findings }) => findings)
  if (list.length === 0) return
  const now = list.findIndex(({ id }) => id === desk.findingId)
  const next = list[now === -1 && by === -1 ? list.length - 1 : (now + by + list.length) % list.length]
  if (!next) return
  desk.findingId = next.id
  if (next.at.length > 0) desk.goToFinding(next, busOf)
  else if (next.things.length > 0 && panel !== 'findings') showThing(next)
  if (panel === 'findings') desk.panel = 'findings'
}
