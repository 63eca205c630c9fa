import type { NumberWord } from '~/lib/sentence'

/**
 * A number being typed for a field. `read` gives what it makes, null where nothing changes, or
 * undefined with `refusal` saying why it cannot be.
 */
export function useNumberDraft<T>(word: () => NumberWord<T>) {
  const draft = ref('')
  const refusal = ref<string | null>(null)

  function read(): T | null | undefined {
    const { low, high, value, set } = word()
    const typed = draft.value.trim()
    const number = Number(typed)
    if (typed === '' || !Number.isInteger(number)) {
      refusal.value = `Type a whole number, ${low} to ${high}.`
      return undefined
    }
    if (number < low || number > high) {
      refusal.value = `${number} is out of range: ${low} to ${high}.`
      return undefined
    }
    refusal.value = null
    if (number === value) return null
    try {
      return set(number)
    } catch (error) {
      if (!(error instanceof RangeError)) throw error
      refusal.value = error.message
      return undefined
    }
  }

  return { draft, refusal, read }
}
