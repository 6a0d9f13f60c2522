export { ROLES, sightOf, type Role, type Sight } from './sight'
