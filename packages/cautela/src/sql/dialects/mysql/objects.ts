import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: MySQL 9 manual, 15.1 and 15.7. */
export const mysqlObjects = objectWords(
  "database event function index instance library logfile prepare procedure resource role schema server " +
    "spatial table tables tablespace trigger user view views",
  "aggregate algorithm definer duality fulltext json or relational sql temporary undo",
);

/** The first words of what ALTER TABLE does. */
export const mysqlTableActions = words(
  "add algorithm alter analyze auto_increment autoextend_size avg_row_length change character charset check " +
    "checksum coalesce collate comment compression connection convert data default delay_key_write disable " +
    "discard drop enable encryption engine engine_attribute exchange force import index insert_method " +
    "key_block_size lock max_rows min_rows modify optimize order pack_keys partition password rebuild remove " +
    "rename reorganize repair row_format secondary_engine secondary_engine_attribute secondary_load " +
    "secondary_unload start stats_auto_recalc stats_persistent stats_sample_pages storage tablespace truncate " +
    "type union upgrade with without",
);

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const mysqlClauseWords = words(
  "ascii column_format enforced engine_attribute invisible key_block_size secondary_engine_attribute srid unicode",
);
