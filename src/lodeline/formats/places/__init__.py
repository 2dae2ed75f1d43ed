"""Places in and out: GeoJSON with OpenStreetMap's tags, GPX waypoints, CSV."""
