/** The cache of what was seen of the shop, which is emptied when somebody signs out or in. */
export const seen = 'seen';

/** The header by which an answer says when it was kept, in ms since 1970. */
export const keptAt = 'X-Kept-At';
