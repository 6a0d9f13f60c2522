import { isDataPackage } from '../data-package'
import type { Format } from './format'

export const dataPackage: Format = {
  called: 'a data package (datapackage.json, zipped)',
  isIn: isDataPackage,
  instead: 'A course is brought in where courses are made, an assessment at Set out, a rubric at Agree.',
}
