/** Stands in, in browsers, for modules of Node.js that a package asks for only when it runs there. */
const nothing = {};
export default nothing;
