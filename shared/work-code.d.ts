/** `work.ts` as one module, and the `highs.wasm` that it looks for beside itself: in base64, built with the server. */
declare module '#work-code' {
  const code: string
  export default code
  export const runtime: string
}
