import { screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { SheetsRead } from './SheetsRead'

const sheet = (name: string, chosen: boolean, linesBefore = 0, hidden = false) => ({ name, chosen, linesBefore, hidden })

test('sheets are offered by name with the line they begin on; the last one stays, and of a single one nothing is said', async () => {
  const onChoose = jest.fn()
  const { user, show } = inPage(
    <SheetsRead sheets={[sheet('Alidade', true), sheet('Groma', true, 31), sheet('Old', false, 0, true)]} onChoose={onChoose} />,
  )
  expect(screen.getByRole('group', { name: 'Sheets that are read' })).toBeTruthy()
  expect(screen.getByRole('checkbox', { name: 'Groma from line 32' })).toBeTruthy()
  await user.click(screen.getByRole('checkbox', { name: 'Old (hidden)' }))
  expect(onChoose).toHaveBeenLastCalledWith(['Alidade', 'Groma', 'Old'])
  await user.click(screen.getByRole('checkbox', { name: 'Alidade' }))
  expect(onChoose).toHaveBeenLastCalledWith(['Groma'])
  show(<SheetsRead sheets={[sheet('Alidade', true), sheet('Groma', false)]} onChoose={onChoose} />)
  expect(screen.getByRole<HTMLInputElement>('checkbox', { name: 'Alidade' }).disabled).toBe(true)
  show(<SheetsRead sheets={[sheet('Alidade', true)]} onChoose={onChoose} />)
  expect(screen.queryByRole('checkbox')).toBeNull()
})
