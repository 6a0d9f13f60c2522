import { expose } from 'comlink'
import { CourseBook } from './book'

expose(new CourseBook())
