/** A question that was put to the server, as a dispatched query gives it. */
interface Asked<Answer> {
  readonly unwrap: () => Promise<Answer>
  readonly unsubscribe: () => void
}

/**
 * The answer to what is asked once. The asking holds on to it until it has come: an answer that nobody holds on to
 * is thrown away before it is read when all is asked for anew meanwhile, as when the network comes back.
 * @throws What the query fails with; `messageOf` words it
 */
export async function answerOf<Answer>(asked: Asked<Answer>): Promise<Answer> {
  try {
    return await asked.unwrap()
  } finally {
    asked.unsubscribe()
  }
}
