// Before the first paint: the theme the reader chose, or the system's.
(function () {
  var kept = null;
  try {
    kept = localStorage.getItem('theme');
  } catch (e) {
    kept = null;
  }
  var night = kept ? kept === 'night' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.dataset.theme = night ? 'night' : 'day';
})();
