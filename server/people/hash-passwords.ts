// Makes and checks password hashes beside the server's thread and its thread pool, one at a time.
import { fitsPassword, hashPassword } from './password-hash'
import { answerOrders } from '../threads/answer-orders'
import type { HashOrder } from './hash-queue'

answerOrders<HashOrder>(({ password, hash }) =>
  hash === undefined ? hashPassword(password) : fitsPassword(hash, password),
)
