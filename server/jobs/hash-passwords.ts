// Makes and checks password hashes beside the server's thread and its pool, one at a time.
import { fitsPassword, hashPassword } from '../people/password-hash'
import { answerOrders } from './answer-orders'
import type { HashOrder } from '../people/hash-queue'

answerOrders<HashOrder>(({ password, hash }) =>
  hash === undefined ? hashPassword(password) : fitsPassword(hash, password),
)
