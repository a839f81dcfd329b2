module harbour.example/fairway

go 1.24
