import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: Transact-SQL reference, statements: CREATE, ALTER, DROP. */
export const tsqlObjects = objectWords(
  "aggregate application assembly asymmetric authorization availability broker certificate column " +
    "columnstore contract credential cryptographic database default endpoint event external fulltext function " +
    "index json login master materialized message partition primary proc procedure queue remote resource role " +
    "route rule schema search security selective sensitivity sequence server service signature spatial " +
    "statistics symmetric synonym table trigger type user vector view workload xml",
  "clustered nonclustered or",
);

/** The first words of what ALTER TABLE does. */
export const tsqlTableActions = words(
  "add alter check disable drop enable merge nocheck rebuild set split switch with",
);

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const tsqlClauseWords = words(
  "all_sparse_columns column_set columnstore connection content data_compression document encrypted enforced filestream filestream_on filetable_directory fillfactor hidden masked pad_index sequence_number sparse textimage_on transaction_id",
);
