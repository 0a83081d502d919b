import { ShelfPlace } from '../../../core/bench/shelf-place'
import { shelfPlaceAnswer } from '../../shelf/room'

/** Where shelves of new cases are, and the room there. */
export default defineRoute({ answers: ShelfPlace, may: 'playbook' }, () => shelfPlaceAnswer())
