/** A file of a published page. */
export default defineEventHandler(event => showFile(event, getRouterParam(event, 'id') ?? '', decodeURIComponent(getRouterParam(event, 'path') ?? '')))
