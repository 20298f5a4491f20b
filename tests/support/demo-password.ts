/** The demo's password, and its scrypt hash as better-auth stores it. */
export const DEMO_PASSWORD = 'pass-the-baton';
export const DEMO_PASSWORD_HASH =
  '47761f2c5751a4f6f830916cd3d86805:08d3e9a87db9c208f88d18930946f21187fe5368e18da9e94d7e37a895dbb96322ea5329fb75fc4b4f042117a4048529e556b83f136919996d1f9b7214cd042e';
