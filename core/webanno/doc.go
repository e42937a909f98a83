// Package webanno writes and reads threads as Web Annotations (W3C
// Recommendation, 23 February 2017, JSON-LD): lines as FragmentSelector by RFC
// 5147, quoted text as TextQuoteSelector, characters as TextPositionSelector.
// What the model has no word for stands under "juxtagram:…". What Write wrote
// Read gives back without loss. Nothing that a document names is ever fetched:
// contexts are looked at as text alone.
package webanno
