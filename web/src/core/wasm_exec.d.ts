// What Go brings for its programs in the browser: it sets Go on the global object and exports nothing.
export {}
