import { expose } from 'comlink'
import { OwnSettings } from '#contract/own-settings'
import { page } from '../api/client'
import { CourseBook } from './book'

// Its page tells by the worker's name how the person writes: some figures come back as words.
page.settings = { ...page.settings, decimal: OwnSettings.shape.decimal.catch('point').parse(self.name) }
expose(new CourseBook())
