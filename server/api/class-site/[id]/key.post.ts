import { answering } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

/** A new key for who has the folio (`x-publication-owner`); the one before opens nothing any more: → `{key}`. */
export default defineEventHandler(event =>
  answering(event, async () => ({
    key: await theClassSite().newKey(
      getRouterParam(event, 'id') ?? '',
      String(event.node.req.headers['x-publication-owner'] ?? ''),
    ),
  })),
)
