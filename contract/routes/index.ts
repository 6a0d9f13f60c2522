import { confirmRoutes } from './confirm'
import { calendarsRoutes } from './calendars'
import { classesRoutes } from './classes'
import { recordsRoutes } from './records'
import { coursesRoutes } from './courses'
import { deliveriesRoutes } from './deliveries'
import { doorRoutes } from './door'
import { exemplarsRoutes } from './exemplars'
import { keepingRoutes } from './keeping'
import { libraryRoutes } from './library'
import { markingRoutes } from './marking'
import { ideasRoutes } from './ideas'
import { lineListRoutes } from './line-lists'
import { notesRoutes } from './notes'
import { outcomesRoutes } from './outcomes'
import { peopleRoutes } from './people'
import { placementsRoutes } from './placements'
import { planRoutes } from './plan'
import { postRoutes } from './post'
import { rollRoutes } from './roll'
import { sharingRoutes } from './sharing'
import { studentRoutes } from './student'
import { trialsRoutes } from './trials'

/** Every route there is, by area: the server, the contract and the page call an area by the same name. */
export const AREAS = {
  calendars: calendarsRoutes,
  classes: classesRoutes,
  confirm: confirmRoutes,
  courses: coursesRoutes,
  deliveries: deliveriesRoutes,
  door: doorRoutes,
  exemplars: exemplarsRoutes,
  keeping: keepingRoutes,
  library: libraryRoutes,
  marking: markingRoutes,
  ideas: ideasRoutes,
  'line-lists': lineListRoutes,
  notes: notesRoutes,
  outcomes: outcomesRoutes,
  people: peopleRoutes,
  placements: placementsRoutes,
  plan: planRoutes,
  post: postRoutes,
  roll: rollRoutes,
  sharing: sharingRoutes,
  student: studentRoutes,
  trials: trialsRoutes,
}
export type Area = keyof typeof AREAS

/** Every route there is: the server registers these, the web calls these, and the API description is made from these. */
export const routes = {
  ...calendarsRoutes,
  ...classesRoutes,
  ...confirmRoutes,
  ...recordsRoutes,
  ...coursesRoutes,
  ...deliveriesRoutes,
  ...doorRoutes,
  ...exemplarsRoutes,
  ...keepingRoutes,
  ...libraryRoutes,
  ...markingRoutes,
  ...ideasRoutes,
  ...lineListRoutes,
  ...notesRoutes,
  ...outcomesRoutes,
  ...peopleRoutes,
  ...placementsRoutes,
  ...planRoutes,
  ...postRoutes,
  ...rollRoutes,
  ...sharingRoutes,
  ...studentRoutes,
  ...trialsRoutes,
}
