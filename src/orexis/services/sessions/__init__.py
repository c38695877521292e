"""Sessions: what is asked, by what terms it is judged, and where it stands."""
