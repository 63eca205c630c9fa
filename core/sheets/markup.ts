const ENTITIES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}

/** Text as it stands in markup, in content and in values of attributes alike (XML 1.0, section 2.4). */
export const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => ENTITIES[sign] ?? sign)
