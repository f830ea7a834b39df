import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: Oracle SQL Language Reference 23, statements. */
export const plsqlObjects = objectWords(
  "analytic assertion attribute audit cluster context controlfile database dictionary dimension directory " +
    "diskgroup domain edition flashback function hierarchy index indextype inmemory java json library " +
    "lockdown logical materialized mle operator outline package pfile pluggable pmem procedure profile " +
    "property resource restore role rollback schema sequence session snapshot spfile summary synonym system " +
    "table tablespace trigger type user view",
  "and bigfile bitmap blockchain clean compile deferrable deferred duplicated editionable editioning force " +
    "global if immutable multivalue no noforce noneditionable or private public replace resolve sharded " +
    "shared smallfile temporary undo unusable vector",
);

/** The first words of what ALTER TABLE does. */
export const plsqlTableActions = words(
  "add allocate annotations cache cluster coalesce column compress constraint deallocate default disable " +
    "drop enable exchange filesystem_like_logging flashback force ilm including indexing initrans inmemory " +
    "local logging mapping maxtrans memoptimize merge minimize modify monitoring move no nocache nocompress " +
    "nologging nominimize nomonitoring noparallel noresult_cache norowdependencies not overflow parallel " +
    "partition pctfree pctthreshold pctused physical read rebuild record records rename result_cache row " +
    "rowdependencies segment set shrink split storage supplemental truncate update upgrade validate",
);

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const plsqlClauseWords = words(
  "annotations compress decrypt edition encrypt evaluation exceptions exchange extend hidden initrans invisible logging mac maxtrans nocache nocompress noextend nokeep nologging nomac nomaxvalue nominvalue noorder noparallel norely noscale noshard nosort novalidate pctfree persistable rely reservable salt scale scope shard sort store substitutable unrecoverable unusable",
);
