/** The page itself; without its last slash the address would break the page's relative paths. */
export default defineEventHandler((event) => {
  const id = getRouterParam(event, 'id') ?? ''
  return getRequestURL(event).pathname.endsWith('/') ? showFile(event, id, 'index.html') : sendRedirect(event, `/class/${encodeURIComponent(id)}/`, 301)
})
