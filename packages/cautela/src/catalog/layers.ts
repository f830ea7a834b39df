import { Catalog } from "./catalog.ts";

const KINDS = ["type", "sequence", "table", "view", "synonym", "routine", "trigger", "rule"] as const;

/** From this many layers on they are put together. */
const MANY = 16;

/**
 * The same catalog with its layers over `base` put together into one where there are many: each question goes through all
 * of them. `base` is null where the lowest layer is itself one of them.
 */
export function fewLayers(catalog: Catalog, base: Catalog | null): Catalog {
  const layers: Catalog[] = [];
  for (let at: Catalog | null = catalog; at !== null && at !== base; at = at.below) layers.unshift(at);
  if (layers.length < MANY) return catalog;
  const flat = base?.fork() ?? new Catalog(catalog.dialect, { complete: catalog.complete });
  for (const layer of layers)
    for (const kind of KINDS)
      for (const [key, object] of layer.changed(kind))
        if (object) flat.put(object);
        else flat.remove(kind, key);
  for (const one of catalog.unread.slice(base?.unread.length ?? 0)) flat.lacks(one);
  flat.searchPath = catalog.searchPath;
  return flat;
}
