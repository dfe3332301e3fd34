export { DateInput as default } from '@mantine/dates'
