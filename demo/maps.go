package demo

import (
	"fmt"
	"strings"

	"gorm.io/gorm"

	"hodos/core/outline"
	"hodos/exchange/mapfile"
	"hodos/store"
)

// mapped is one entry of the map of a demo property: corners in m to the east and to the north of the site.
type mapped struct {
	n     uint32
	zone  int // of a lawn; -1 for what lies on or along lawns
	kind  string
	name  string
	line  string
	ring  bool
	reach float64
}

// maps are the lawns and what lies on them, one a line.
var maps = []mapped{
	{1, 0, outline.Lawn, "", "-10,6 10,6 10,17 5,17 5,23 -10,23", true, 0},
	{1, 1, outline.Lawn, "", "-10,-16 8,-16 8,-6 -10,-6", true, 0},
	{1, -1, outline.HardEdge, "Drive", "8.3,-18 11.3,-18 11.3,5.7 8.3,5.7", true, 0},
	{1, -1, outline.HardEdge, "Terrace", "-6,5.6 6,5.6", false, 0},
	{1, -1, outline.Tree, "Maple", "-6.5,19.5", false, 3.5},
	{1, -1, outline.Sprinkler, "", "-10,6", false, 9},
	{1, -1, outline.Sprinkler, "", "10,6", false, 9},
	{1, -1, outline.Sprinkler, "", "-10,23", false, 9},
	{1, -1, outline.Sprinkler, "", "5,23", false, 7},
	{1, -1, outline.Buried, "Gas line", "-4,-5 -4,-18", false, 0},
	{2, 0, outline.Lawn, "", "-10,-18 10,-18 10,-6 -10,-6", true, 0},
	{2, 1, outline.Lawn, "", "-9.5,-21.5 9.5,-21.5 9.5,-19.5 -9.5,-19.5", true, 0},
	{2, -1, outline.HardEdge, "Pavement", "-12,-18.7 12,-18.7", false, 0},
	{2, -1, outline.HardEdge, "Kerb", "-12,-21.8 12,-21.8", false, 0},
	{2, -1, outline.Tree, "Linden", "6,-10", false, 3},
	{2, -1, outline.Slope, "", "0,-6 0,-17", false, 0},
	{3, 0, outline.Lawn, "", "-25,0 25,0 25,29 -25,29", true, 0},
	{3, 1, outline.Lawn, "", "-30,-3 30,-3 30,-1.5 -30,-1.5", true, 0},
	{3, -1, outline.HardEdge, "Entry path", "-30,-0.9 30,-0.9", false, 0},
	{3, -1, outline.Tree, "Plane", "-20,24", false, 5},
	{3, -1, outline.Tree, "Plane", "19,23", false, 4.5},
	{3, -1, outline.Sprinkler, "", "-25,0", false, 14},
	{3, -1, outline.Sprinkler, "", "0,0", false, 14},
	{3, -1, outline.Sprinkler, "", "25,0", false, 14},
	{3, -1, outline.Sprinkler, "", "-25,29", false, 14},
	{3, -1, outline.Sprinkler, "", "0,29", false, 14},
	{3, -1, outline.Sprinkler, "", "25,29", false, 14},
	{4, 0, outline.Lawn, "", "-14,-20 14,-20 14,-5 -14,-5", true, 0},
	{4, -1, outline.HardEdge, "Terrace", "-8,-4.6 8,-4.6", false, 0},
	{4, -1, outline.Tree, "Crape myrtle", "11,-17", false, 2},
	{4, -1, outline.Sprinkler, "", "-14,-20", false, 12},
	{4, -1, outline.Sprinkler, "", "0,-20", false, 12},
	{4, -1, outline.Sprinkler, "", "14,-20", false, 12},
	{5, 0, outline.Lawn, "", "-6.5,4 6.5,4 6.5,14 -6.5,14", true, 0},
	{5, -1, outline.HardEdge, "Terrace", "-6.5,3.7 6.5,3.7", false, 0},
	{5, -1, outline.Slope, "", "0,5 0,13", false, 0},
	{6, 0, outline.Lawn, "", "4,-20 7.2,-20 7.2,0 4,0", true, 0},
	{6, 1, outline.Lawn, "", "-8,6 7,6 7,20 -8,20", true, 0},
	{6, -1, outline.HardEdge, "Drive", "0,-20 3.7,-20 3.7,1 0,1", true, 0},
	{6, -1, outline.Sprinkler, "", "7.2,-20", false, 5},
	{6, -1, outline.Sprinkler, "", "7.2,-10", false, 5},
	{6, -1, outline.Buried, "Septic tank", "-3,15 1,15 1,18 -3,18", true, 0},
	{7, 0, outline.Lawn, "", "-16,-10 10,-10 16,10 -10,10", true, 0},
	{7, -1, outline.Slope, "", "0,9 0,-9", false, 0},
	{8, 0, outline.Lawn, "", "-7.5,5 7.5,5 7.5,15 -7.5,15", true, 0},
	{8, -1, outline.HardEdge, "Path", "7.8,3 7.8,16", false, 0},
	{8, -1, outline.Sprinkler, "", "-7.5,5", false, 8},
	{8, -1, outline.Sprinkler, "", "7.5,15", false, 8},
	{9, 0, outline.Lawn, "", "-36,-14 -26,-14 -26,0 -36,0", true, 0},
	{9, 1, outline.Lawn, "", "-24,-12 -14,-12 -14,0 -24,0", true, 0},
	{9, 2, outline.Lawn, "", "-12,-15 -2,-15 -2,0 -12,0", true, 0},
	{9, 3, outline.Lawn, "", "0,-13.5 10,-13.5 10,0 0,0", true, 0},
	{9, 4, outline.Lawn, "", "12,-16 22,-16 22,0 12,0", true, 0},
	{9, 5, outline.Lawn, "", "24,-14.5 34,-14.5 34,0 24,0", true, 0},
	{9, -1, outline.HardEdge, "Footway", "-36,0.4 34,0.4", false, 0},
}

// taken is how well the demo's maps were taken, m.
const taken = 0.3

// loadMap puts the map of a property in.
func (p property) loadMap(tx *gorm.DB, site store.Site, zones []store.Zone) error {
	at := outline.Place{Longitude: p.lon, Latitude: p.lat}
	plane := outline.NewPlane(at)
	for i, e := range maps {
		if e.n != p.n {
			continue
		}
		m := outline.Mapped{Kind: e.kind, Name: e.name, Closed: e.ring, Reach: e.reach, Error: taken}
		for _, corner := range strings.Fields(e.line) {
			var x outline.Point
			if _, err := fmt.Sscanf(corner, "%f,%f", &x.East, &x.North); err != nil {
				return err
			}
			m.Places = append(m.Places, plane.Place(x))
		}
		if field, reason := m.Wrong(at); field != "" {
			return fmt.Errorf("map of %s, %s: %s", p.name, e.line, reason)
		}
		g, err := mapfile.Geometry(m)
		if err != nil {
			return err
		}
		row := store.MapEntry{ID: key(3_000_000 + uint32(i)), FirmID: Firm, SiteID: site.ID, Kind: m.Kind, Name: m.Name,
			Geometry: store.JSON(g), ReachM: m.Reach, ErrorM: m.Error, How: "file", Version: 1}
		if e.zone >= 0 {
			row.ZoneID, row.AreaError = &zones[e.zone].ID, m.Shape(plane).AreaError(taken)
		}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	return nil
}
