/** A date that nobody has said yet. */
export const unknownDate = 0xffff

/** 1 January 2000 was a Saturday: 1 Monday … 7 Sunday, of days since then. */
export const weekdayOf = (days: number): number => ((days + 5) % 7) + 1

/** Year, month 1–12 and day 1–31 of days since 1 January 2000, by the Gregorian calendar. */
export function dateOf(days: number): { year: number; month: number; day: number } {
  // Counted from 1 March 2000, so that the leap day is the last of its year.
  const at = days - 60 + 146_097
  const era = Math.floor(at / 146_097)
  const inEra = at - era * 146_097
  const yearOfEra = Math.floor(
    (inEra - Math.floor(inEra / 1460) + Math.floor(inEra / 36_524) - Math.floor(inEra / 146_096)) / 365,
  )
  const inYear = inEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const shifted = Math.floor((5 * inYear + 2) / 153)
  const month = shifted < 10 ? shifted + 3 : shifted - 9
  return {
    year: 1600 + era * 400 + yearOfEra + (month <= 2 ? 1 : 0),
    month,
    day: inYear - Math.floor((153 * shifted + 2) / 5) + 1,
  }
}

/** Days since 1 January 2000 of a date. */
export function daysOf(year: number, month: number, day: number): number {
  const shifted = month <= 2 ? year - 1 : year
  const era = Math.floor(shifted / 400)
  const yearOfEra = shifted - era * 400
  const inYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1
  return era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + inYear - 730_425
}
