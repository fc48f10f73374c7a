/** A request that changes something says in this header whose tab it comes from. */
export const PERSON_HEADER = 'x-uncia-person';
