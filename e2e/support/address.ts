/** Where the built application answers. */
export const ADDRESS = process.env.DEFT_ADDRESS ?? 'http://127.0.0.1:4317'
