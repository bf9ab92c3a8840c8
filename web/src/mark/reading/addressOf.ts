import type { Schemas } from '@/api/client';

/** Where the file of a source is played or shown from. */
export const addressOf = (source: Schemas['Source']) => `/api/sources/${source.line.id}/media`;
