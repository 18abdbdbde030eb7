import { described, settingTypes as t } from '../../settings/index.ts'
import { actionOf, named } from '../action.ts'

export const goToPage = actionOf({
  action: 'go to page',
  label: 'opens page',
  settings: described({ page: { label: 'page', before: '', type: t.page, default: '', accepts: ['page'], group: 'Action' } }),
  words: (raw, nameOf) => `opens ${named(raw.page, nameOf)}`,
  facts: ({ page }) => ({ opens: page }),
  run({ page }, world) {
    if (page !== null) world.do({ do: 'page', number: page as number })
  },
})
