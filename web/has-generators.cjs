/* global module */
// Asked by a package that would find it out through eval, which the pages’ policy stops and the console complains of.
module.exports = () => true
