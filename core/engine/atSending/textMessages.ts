/** The mail domain behind which text messages leave for telephones: a stand-in for a gateway from mail to telephone. */
export const textGateway = 'text-messages.example'

/** The address of a telephone at the gateway; null: that is no usable number. */
export function textAddress(phone: string): string | null {
  const digits = phone.replace(/[^\d+]/g, '')
  return /^\+?\d{6,15}$/.test(digits) ? `${digits}@${textGateway}` : null
}
