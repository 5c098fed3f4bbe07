import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/**
 * The words of texts and comments, under an index each. Texts of the past are among them, for questions as of a moment.
 * The collation gives the classes of Unicode, which the texts' own ("C") does not know.
 */
export const words: Migration = {
  name: '0011-words',
  up: async (database) => {
    await run(
      database,
      `CREATE FUNCTION words_of(x text) RETURNS text[] LANGUAGE sql IMMUTABLE PARALLEL SAFE
        RETURN regexp_split_to_array(accenti(casei(x)) COLLATE "und-x-icu", '[^[:alnum:]]+');
      CREATE FUNCTION words_of(title text, description text) RETURNS text[] LANGUAGE sql IMMUTABLE PARALLEL SAFE
        RETURN words_of(title || ' ' || coalesce(description, ''));
      CREATE INDEX item_text_words ON item_text USING gin (words_of(title, description));
      CREATE INDEX comment_words ON comment USING gin (words_of(body))`,
    )
  },
}
