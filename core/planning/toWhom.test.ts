import { expect, test } from '@jest/globals'
import { toWhom } from './toWhom.ts'

const oona = { clientName: 'Oona', recipientName: 'Oona', isToClient: true }
const colleague = { ...oona, recipientName: 'Ilse', isToClient: false }
const mother = { ...oona, recipientName: 'Aino' }

test('a colleague gets it for the client, another contact beside the client', () => {
  expect([oona, colleague, mother].map((one) => toWhom(one))).toEqual(['Oona', 'Ilse for Oona', 'Aino, Oona'])
})

test('where the client stands above, only somebody else is named', () => {
  expect([oona, colleague, mother].map((one) => toWhom(one, true))).toEqual(['', 'Ilse', 'Aino'])
})

test('a step that writes to nobody is about the client', () => {
  expect(toWhom({ ...oona, recipientName: '' })).toBe('Oona')
})
