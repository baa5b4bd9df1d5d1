/**
 * How well what was typed fits a text: all its letters in order, best where they begin words and stand together.
 *
 * @return 0 where it does not fit; else the higher the better
 */
export function fits(typed: string, text: string): number {
  const wanted = typed.trim().toLowerCase()
  const there = text.toLowerCase()
  if (!wanted) return 1
  const whole = there.indexOf(wanted)
  if (whole >= 0) return 1_000 - whole + (whole === 0 || there[whole - 1] === ' ' ? 500 : 0) - there.length
  let score = 0
  let at = -1
  for (const letter of wanted.replace(/\s+/g, '')) {
    const next = there.indexOf(letter, at + 1)
    if (next < 0) return 0
    score += next === at + 1 ? 3 : next === 0 || there[next - 1] === ' ' ? 4 : 0
    at = next
  }
  return 1 + score
}
