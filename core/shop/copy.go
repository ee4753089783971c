package shop

// Bare is the shop without its versions: what is the same is the same however often it was
// changed.
func (s Shop) Bare() Shop {
	s.Version = 0
	machines := make([]Machine, len(s.Machines))
	for i, m := range s.Machines {
		m.Version = 0
		motors := make([]Motor, len(m.Motors))
		for k, motor := range m.Motors {
			motors[k] = motor.Bare()
		}
		m.Motors = motors
		machines[i] = m
	}
	s.Machines = machines
	return s
}

// Copy is the shop with new ids throughout.
func (s Shop) Copy(newID func() string) Shop {
	s.ID, s.Version = newID(), 1
	names := map[string]string{}
	anew := func(id string) string {
		if names[id] == "" {
			names[id] = newID()
		}
		return names[id]
	}
	machines := make([]Machine, len(s.Machines))
	for i, m := range s.Machines {
		machines[i] = m.Copy(newID)
		names[m.ID] = machines[i].ID
		for k, motor := range m.Motors {
			names[motor.ID] = machines[i].Motors[k].ID
		}
	}
	s.Machines = machines
	s.Site, s.State = s.Site.Renamed(anew), s.State.Renamed(anew)
	return s
}

// Copy is the machine with new ids throughout.
func (m Machine) Copy(newID func() string) Machine {
	m.ID, m.Version = newID(), 1
	motors := make([]Motor, len(m.Motors))
	for i, motor := range m.Motors {
		motor.ID, motor.Version, motor.Versions = newID(), 1, Versions{}
		motors[i] = motor
	}
	m.Motors = motors
	return m
}
