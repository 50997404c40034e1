"""The gauge link: gauges that send their readings, and the pages that listen to them (`docs/gauge-link.md`)."""
