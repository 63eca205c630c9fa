declare module 'fontkit' {
  export function openSync(path: string): { characterSet: number[] }
}
