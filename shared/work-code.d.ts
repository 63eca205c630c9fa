/** `work.ts` as one module, in base64, built with the server. */
declare module '#work-code' {
  const code: string
  export default code
}
