module harbour.example/station

go 1.22
