import config from './playwright.config.js'

// Pictures of the main views from the demo data, clock held: make screenshots.
export default { ...config, projects: [{ name: 'screenshots', testMatch: 'screenshots.js' }] }
