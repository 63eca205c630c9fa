import type { Recipe } from '../../rig'
import { readParts, type ReadRecipe } from './notation'
import { recipeProblems } from './problems'
import { requestProblems } from './request'
import { readTable } from './table-text'

/** A recipe that was read, or everything that is wrong with it, as sentences. */
export type RecipeIn = { ok: true; recipe: ReadRecipe } | { ok: false; problems: readonly string[] }

/** Read a recipe as the player wrote it. */
export function recipeIn({
  message,
  request,
  kinds,
  behaviours,
}: Pick<Recipe, 'message' | 'request' | 'kinds' | 'behaviours'>): RecipeIn {
  const parts = readParts(message)
  const [kindTable, behaviourTable] = [readTable(kinds), readTable(behaviours)]
  if (!parts.ok || !kindTable.ok || !behaviourTable.ok)
    return {
      ok: false,
      problems: [
        ...(parts.ok ? [] : [`Word ${parts.word}: ${parts.message}`]),
        ...(kindTable.ok ? [] : [`Kinds: ${kindTable.message}`]),
        ...(behaviourTable.ok ? [] : [`Behaviours: ${behaviourTable.message}`]),
      ],
    }
  const recipe = { parts: parts.parts, kinds: kindTable.table, behaviours: behaviourTable.table }
  const problems = [...recipeProblems(recipe), ...requestProblems(request)]
  return problems.length > 0 ? { ok: false, problems } : { ok: true, recipe }
}
