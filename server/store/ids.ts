/** Ids of songs, handoffs and recipes: UUIDs. Anything else is unknown before the database is asked. */
export const isId = (id: string): boolean =>
  /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id);
