/** With fewer digits a number is an extension, and many may have it. */
const fewestDigits = 7

/** A telephone number as it is compared: its last nine digits, however country and area are written; null: too short. */
export function phoneKey(phone: string): string | null {
  const digits = phone.replace(/\D/g, '')
  return digits.length < fewestDigits ? null : digits.slice(-9)
}
