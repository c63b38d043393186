// Ids of pages in all languages.

/** The key of a page, whose id has its language behind it where that is not the first: `visit/hours@cy`. */
export const keyOf = (id: string): string => id.split("@")[0];
export const languageOf = (id: string): string => id.split("@")[1] ?? "";
