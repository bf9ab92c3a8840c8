/** Milliseconds of 12:03 or 1:02:06; null for anything else. */
export function milliseconds(typed: string): number | null {
  const found = /^(?:(\d{1,2}):)?(\d{1,2}):([0-5]\d)(?:[.,](\d{1,3}))?$/.exec(typed.trim());
  if (!found) return null;
  const [, hours = '0', minutes = '0', seconds = '0', rest = '0'] = found;
  return ((Number(hours) * 60 + Number(minutes)) * 60 + Number(seconds)) * 1000 + Number(rest.padEnd(3, '0'));
}
