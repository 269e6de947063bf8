import { LineField } from '../../kit/LineField'

/** What is known of one's account. */
export const accountKey = ['account']

/** One's present password, asked for before anything of the account is changed. */
export const CurrentPassword = ({ label, fault }: { label: string; fault: string | undefined }) => (
  <LineField name="current" label={label} type="password" complete="current-password" fault={fault} />
)
