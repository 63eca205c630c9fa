/** `work.ts` as one module, and the files that it looks for beside itself: in base64, built with the server. */
declare module '#work-code' {
  const code: string
  export default code
  export const files: Readonly<Record<string, string>>
}
