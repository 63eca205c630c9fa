import loadHighs, { type Highs, type InitOptions } from 'highs'
import type { Program, Programmed, ProgramOptions, SolveProgram } from '#core/allocate/solver/program'

/** Gaps below one are none: what is counted is whole. */
const LEAST_GAP = 0.99
/** The package’s number for a solution that keeps to all rows. */
const FEASIBLE = 2

/** Linear programs of so many columns at most are over before anybody waits: to be asked each step whether to stop takes a fifth of their time. */
const MOST_UNASKED_COLUMNS = 10_000

/** Programs of so many columns at most are solved by whole numbers without being simplified first. */
const MOST_AS_THEY_ARE = 1000

/** Loads the package that solves linear programs, which is large: 3.5 MB. Throws where it cannot be loaded. */
export async function loadPrograms(options: InitOptions = {}): Promise<SolveProgram> {
  const highs = await loadHighs(options)
  return (program, how) => solved(highs, program, how)
}

/** Loads it when it is first asked for, and once; where that failed, it is tried again when it is next asked for. */
export function programsWhenNeeded(options: InitOptions = {}): () => Promise<SolveProgram> {
  let loading: Promise<SolveProgram> | null = null
  return async () => {
    loading ??= loadPrograms(options)
    try {
      return await loading
    } catch (error) {
      loading = null
      throw error
    }
  }
}

function solved(highs: Highs, program: Program, { isWhole, nodes, isStopped }: ProgramOptions): Programmed {
  const { costs, starts, rows, values, most, least, upTo } = program
  const columns = costs.length
  const ones = (value: number): Float64Array => new Float64Array(columns).fill(value)
  const data = {
    numCols: columns,
    numRows: most.length,
    colCost: costs,
    colLower: ones(0),
    colUpper: upTo ?? ones(1),
    rowLower: least,
    rowUpper: most,
    matrix: { format: 'csc' as const, numRows: most.length, numCols: columns, starts, indices: rows, values },
    ...(isWhole ? { integrality: new Int32Array(columns).fill(1) } : {}),
  }
  return highs.withModel(data, (model): Programmed => {
    model.options.set({
      output_flag: false,
      mip_rel_gap: 0,
      mip_abs_gap: LEAST_GAP,
      mip_max_nodes: nodes,
      // Problems have been made smaller before they are put: to try that again pays only for large trees.
      presolve: isWhole && columns > MOST_AS_THEY_ARE ? 'choose' : 'off',
      // Nearly every value of the rows is one: there is nothing to scale.
      ...(isWhole ? {} : { simplex_scale_strategy: 0 }),
      // What it looks for is mostly found without it.
      mip_heuristic_run_feasibility_jump: false,
    })
    const { simplexInterrupt, mipInterrupt } = highs.constants.callbackType
    const stop = (event: { interrupt: () => void }): undefined => {
      if (isStopped()) event.interrupt()
    }
    if (isWhole || columns > MOST_UNASKED_COLUMNS)
      model.run({ [simplexInterrupt]: stop, [mipInterrupt]: stop })
    else model.run()
    const { optimal, infeasible } = highs.constants.modelStatus
    const status = model.getModelStatus()
    const end = status === optimal ? 'least' : status === infeasible ? 'none' : 'open'
    const isFound =
      end === 'least' || (end === 'open' && Number(model.info.get('primal_solution_status')) === FEASIBLE)
    const { colValue, rowDual } = model.getSolution()
    return {
      end,
      bound: isWhole
        ? Number(model.info.get('mip_dual_bound'))
        : end === 'least'
          ? model.getObjectiveValue()
          : -Infinity,
      values: isFound ? colValue : null,
      duals: end === 'least' && !isWhole ? rowDual : null,
    }
  })
}
