export function hashOfSources(root: string): string
