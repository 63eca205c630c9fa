import type { Problem } from '#core/rig'

/** A refusal that the caller can understand: an HTTP status, a sentence, and the path of what is wrong. */
export class ApiError extends Error {
  override name = 'ApiError'
  constructor(
    readonly status: number,
    message: string,
    readonly path: string | null = null,
    readonly problems: readonly Problem[] = [],
  ) {
    super(message)
  }
}

export interface ErrorBody {
  error: { message: string; path: string | null; problems?: readonly Problem[] }
}

/** What is answered for a refusal. */
export const refusalBody = ({ message, path, problems }: ApiError): ErrorBody => ({
  error: { message, path, ...(problems.length > 1 ? { problems } : {}) },
})

/** A refusal for what is wrong in what was sent; the first problem speaks for all. */
export function refused(problems: readonly Problem[], status: number): ApiError {
  const [first] = problems
  return new ApiError(status, first?.message ?? 'This is not valid.', first?.path ?? null, problems)
}
