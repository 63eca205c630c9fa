import { formatTimeAgo } from '@vueuse/core'

/** How long ago something was (ISO 8601), in words: “3 minutes ago”. */
export const timeAgo = (at: string): string => formatTimeAgo(new Date(at))
