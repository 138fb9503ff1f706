/** What the server answers in a test; nothing is reached without one saying so. */
export const server: { reply: (request: Request) => Promise<Response> } = {
  reply: (request) => Promise.reject(new Error(`Nobody answers ${request.url}.`)),
}
