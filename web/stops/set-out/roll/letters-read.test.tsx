import { screen } from '@testing-library/react'
import type { TriedRoll } from '#contract'
import { inPage } from '../../../testing/in-page'
import { LettersRead } from './LettersRead'

const row = (name: string): TriedRoll['rows'][number] => ({
  line: 2,
  column: null,
  outcome: 'added',
  candidate: '3901',
  name,
  before: '',
  after: '',
  reason: null,
})
const tried = (encoding: TriedRoll['encoding'], names: string[]) => ({ encoding, rows: names.map(row) }) as TriedRoll

test('a guess at the letters is shown with the names that tell, and another is chosen; of Unicode nothing is said', async () => {
  const onEncoding = jest.fn()
  const { user, show } = inPage(
    <LettersRead tried={tried('windows-1252', ['Ada Wren', 'Jörg Alda', 'Jörg Alda'])} onEncoding={onEncoding} />,
  )
  expect(screen.getByText('Jörg Alda')).toBeTruthy()
  expect(screen.queryByText(/Ada Wren/)).toBeNull()
  await user.selectOptions(screen.getByLabelText(/Its letters are read as/), 'central Europe (Windows-1250)')
  expect(onEncoding).toHaveBeenCalledWith('windows-1250')
  show(<LettersRead tried={tried('windows-1252', ['Ada Wren'])} onEncoding={onEncoding} />)
  expect(screen.getByText('No name has a letter that would show it.')).toBeTruthy()
  show(<LettersRead tried={tried(null, ['Jörg Alda'])} onEncoding={onEncoding} />)
  expect(screen.queryByRole('combobox')).toBeNull()
})
