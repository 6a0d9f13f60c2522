import { screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { Dialog, DialogTitle } from './Dialog'

test('a dialog is called by its title', () => {
  inPage(
    <Dialog onClose={() => undefined}>
      <DialogTitle>Keep this idea</DialogTitle>
    </Dialog>,
  )
  expect(screen.getByRole('dialog', { name: 'Keep this idea' })).toBeTruthy()
})
