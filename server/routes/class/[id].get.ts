/** The address without its last slash would break the page's relative paths. */
export default defineEventHandler(event => sendRedirect(event, `/class/${encodeURIComponent(getRouterParam(event, 'id') ?? '')}/`, 301))
